import { expiryOf, isFreePlace, stateOf } from '../kernel/db/what-counts.ts';
import { sayPacked } from '../../core/shipping/say-packed.ts';
import { inWalkingOrder } from '../../core/shipping/pick-order.ts';
import { looksLikeSymbol, readElementString } from '../../core/gs1/element-string.ts';
import { numberKey, shown } from '../../core/numbers/number.ts';
import { formatQuantity, parseQuantity, quantity } from '../../core/quantity/quantity.ts';
import { checkUsableNow, type Pickable, type PickRecord } from './picks.ts';
import { readPicks } from './picks.ts';
import type { Note } from '../../core/faults/fault.ts';
import type { Actor } from '../kernel/actor.ts';
import { requireRight } from '../kernel/rights.ts';
import { notFound, Problem, type FormError } from '../kernel/problem.ts';
import type { Sql, Tx } from '../kernel/db/client.ts';
import { promiseIn, type GivenPromise, type HowPromised } from './promises.ts';

export interface GivenPick {
  line: number;
  lot?: string;
  serial?: string;
  quantity?: string;
}
interface OrderRow {
  id: number;
  number: string;
  closed: boolean;
}

async function lockOrder(tx: Tx, number: string): Promise<OrderRow> {
  const [order] = await tx<OrderRow[]>`
    SELECT id, number, closed_at IS NOT NULL AS closed
    FROM trade_order
    WHERE kind = 'sales' AND upper(number) = ${numberKey(number)}
    FOR UPDATE
  `;
  if (!order) notFound('order', number);
  if (order.closed)
    throw new Problem(409, 'The order is closed', [
      {
        code: 'order.closed',
        path: 'number',
        number: order.number,
        message: `Order ${order.number} is closed. Open it again before something is picked for it.`
      }
    ]);
  return order;
}

/**
 * Makes the pick list of an order anew: what is named is promised to it and gets a place to fetch
 * it from; a line that names no serial takes any that is free, when it is scanned. What is picked
 * already stays.
 * @throws Problem 403, 404, 409 for a closed order, 422 with everything that cannot be picked
 */
export async function makePickList(
  sql: Sql,
  actor: Actor,
  number: string,
  given: readonly GivenPick[],
  how: HowPromised
): Promise<{ picks: PickRecord[]; notes: Note[] }> {
  requireRight(actor, 'promise');
  return (await sql.begin(async (tx) => {
    const order = await lockOrder(tx, number);
    const lines = new Map(
      (
        await tx<
          { line: number; product_id: number; code: string; serials: boolean; marked: boolean }[]
        >`
          SELECT l.line, p.id AS product_id, p.code, p.marking LIKE 'serial%' AS serials,
            p.marking <> 'none' AS marked
          FROM order_line l
            JOIN product p ON p.id = l.product_id
          WHERE l.order_id = ${order.id}
        `
      ).map((row) => [row.line, row])
    );
    const errors: FormError[] = [];
    given.forEach((one, index) => {
      const line = lines.get(one.line);
      const named = one.lot !== undefined || one.serial !== undefined;
      if (!line)
        errors.push({
          code: 'mark.unknown',
          path: `lines[${index}]`,
          message: `The order has no line ${one.line}.`
        });
      else if (!named && line.marked && !line.serials)
        errors.push({
          code: 'mark.missing',
          path: `lines[${index}]`,
          number: line.code,
          message: `${line.code} is fetched by lot. Name which lot.`
        });
      else if (!named && !(parseQuantity(one.quantity ?? '')?.gt(0) ?? false))
        errors.push({
          code: 'quantity.mismatch',
          path: `lines[${index}]`,
          number: line.code,
          message: `Say how many of ${line.code} are to be fetched.`
        });
    });
    if (errors.length > 0)
      throw new Problem(422, 'This cannot be picked', errors, 'Nothing was changed.');
    const named = given.filter((one) => one.lot !== undefined || one.serial !== undefined);
    const { notes } = await promiseIn(tx, actor, order, named as GivenPromise[], how);
    await tx`DELETE FROM pick WHERE order_id = ${order.id} AND picked = 0`;
    await tx`UPDATE pick SET quantity = picked WHERE order_id = ${order.id} AND picked < quantity`;
    // Where each lies, in walking order; what an earlier row takes is not there for a later one.
    const stock = await tx<
      { line: number; mark: number; quantity: string; place: number; code: string; here: string }[]
    >`
      SELECT r.line, r.mark_id AS mark,
        r.quantity - coalesce(
          (
            SELECT sum(k.quantity)
            FROM pick k
            WHERE k.order_id = r.order_id AND k.line = r.line AND k.mark_id = r.mark_id
          ),
            0
        ) AS quantity,
        s.place_id AS place, c.code, s.quantity AS here
      FROM reservation r
        JOIN stock s ON s.mark_id = r.mark_id AND s.quantity > 0
        JOIN place c ON c.id = s.place_id AND c.kind <> 'quarantine'
      WHERE r.order_id = ${order.id}
      ORDER BY r.line, r.mark_id
    `;
    const left = new Map(stock.map((row) => [`${row.mark} ${row.place}`, quantity(row.here)]));
    const open = new Map(stock.map((row) => [`${row.line} ${row.mark}`, quantity(row.quantity)]));
    const rows: {
      line: number;
      mark: number | null;
      place: number | null;
      quantity: string;
      product: number;
    }[] = [];
    for (const row of inWalkingOrder(
      stock.map((one) => ({
        ...one,
        place: one.code,
        placeId: one.place,
        product: '',
        number: null
      }))
    )) {
      const wanted = open.get(`${row.line} ${row.mark}`)!,
        here = left.get(`${row.mark} ${row.placeId}`)!;
      const part = wanted.lt(here) ? wanted : here;
      if (part.lte(0)) continue;
      open.set(`${row.line} ${row.mark}`, wanted.minus(part));
      left.set(`${row.mark} ${row.placeId}`, here.minus(part));
      rows.push({
        line: row.line,
        mark: row.mark,
        place: row.placeId,
        quantity: part.toFixed(),
        product: lines.get(row.line)!.product_id
      });
    }
    for (const one of given)
      if (one.lot === undefined && one.serial === undefined)
        rows.push({
          line: one.line,
          mark: null,
          place: null,
          quantity: quantity(one.quantity!).toFixed(),
          product: lines.get(one.line)!.product_id
        });
    // Any serial is one scan each: a row for each of them.
    const spread = rows.flatMap((row) =>
      row.mark === null && lines.get(row.line)!.serials
        ? Array.from({ length: Number(row.quantity) }, () => ({ ...row, quantity: '1' }))
        : [row]
    );
    if (spread.length > 0)
      await tx`
        INSERT INTO pick (order_id, line, product_id, mark_id, place_id, quantity)
        SELECT ${order.id}::bigint, *
        FROM unnest(
          ${spread.map((row) => row.line)}::int[], ${spread.map((row) => row.product)}::bigint[],
            ${spread.map((row) => row.mark)}::bigint[], ${spread.map((row) => row.place)}::bigint[],
            ${spread.map((row) => row.quantity)}::numeric[]
        )
      `;
    return { picks: await readPicks(tx, order.id, how.day), notes };
  })) as { picks: PickRecord[]; notes: Note[] };
}

/** What was scanned, and what lets it go on where the customer wishes otherwise. */
interface PickGiven extends Pick<HowPromised, 'reasons' | 'approvals'> {
  scan: string;
  quantity?: string;
  place?: string;
}

export interface PickAnswer {
  said: string;
  pick: PickRecord;
  moved: boolean;
  already: boolean;
}

/**
 * Picks by scan: what is scanned must be on the list, or fill a row where any serial will do. A
 * serial that lies elsewhere than the list says moves the row's place.
 * @param key idempotency key: a scan sent twice picks once
 * @throws Problem 403, 404, 409, 422 where it is not on the list, wrong, held, or promised to
 * somebody else, in words
 */
export async function pickByScan(
  sql: Sql,
  actor: Actor,
  number: string,
  key: string,
  given: PickGiven,
  day: string
): Promise<PickAnswer> {
  requireRight(actor, 'book.ship');
  return (await sql.begin(async (tx) => {
    await tx`SELECT pg_advisory_xact_lock(hashtextextended(${`${actor.personId} ${key}`}, 0))`;
    const order = await lockOrder(tx, number);
    const [before] = await tx<{ answer: PickAnswer; order_id: number; scanned: string }[]>`
      SELECT answer, order_id, scanned
      FROM pick_scan
      WHERE person_id = ${actor.personId} AND key = ${key}
    `;
    if (before) {
      if (before.order_id !== order.id || before.scanned !== given.scan)
        throw new Problem(409, 'This idempotency key was used for another scan', [
          {
            code: 'key.used',
            path: 'Idempotency-Key',
            number: shown(key),
            message: 'Send each scan under a key of its own.'
          }
        ]);
      return before.answer;
    }
    const picks = await readPicks(tx, order.id, day);
    const mark = await scannedMark(tx, given.scan, picks, day);
    const answer = await take(tx, actor, order, picks, mark, given, day);
    await tx`
      INSERT INTO pick_scan (person_id, key, order_id, scanned, answer)
      VALUES (${actor.personId}, ${key}, ${order.id}, ${given.scan}, ${tx.json(answer as never)})
    `;
    return answer;
  })) as PickAnswer;
}

const refuse = (code: string, message: string, number?: string): never => {
  throw new Problem(422, 'Not picked', [
    { code, path: 'scan', ...(number ? { number } : {}), message }
  ]);
};

/** The mark a scan means, of those this order can want; by symbol or by its bare number. */
async function scannedMark(
  tx: Tx,
  scan: string,
  picks: readonly PickRecord[],
  day: string
): Promise<Pickable> {
  let number = scan.trim(),
    gtin: string | undefined;
  if (looksLikeSymbol(scan)) {
    const reading = readElementString(scan, day);
    if (!reading.ok)
      return refuse(
        'number.malformed',
        `The symbol cannot be read: ${reading.why}. Scan it again; it may have been cut short.`
      );
    gtin = reading.symbol.gtin;
    number = reading.symbol.serial ?? reading.symbol.lot ?? '';
    if (number === '')
      return refuse(
        'mark.missing',
        'The symbol names a product but no lot or serial. Scan the number too.'
      );
  }
  const rows = await tx<Pickable[]>`
    SELECT m.id, m.kind, m.number, p.code AS product, p.name, p.unit, p.id AS "productId",
      ${stateOf(tx)} AS state,
      ${expiryOf(tx)} AS expires,
      (
        SELECT json_agg(
          json_build_object(
            'id', c.id, 'code', c.code, 'quantity', s.quantity::text
          ) ORDER BY c.code
        )
        FROM stock s
          JOIN place c ON c.id = s.place_id AND c.kind <> 'quarantine'
        WHERE s.mark_id = m.id AND s.quantity > 0
      ) AS places
    FROM mark m
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE m.number_key = ${numberKey(number)}
      AND (
        ${gtin ?? null}::text IS NULL
          OR p.gtin = ${gtin ?? ''}
          OR EXISTS (
            SELECT FROM product_unit u WHERE u.product_id = p.id AND u.gtin = ${gtin ?? ''}
          )
      )
    ORDER BY (p.code = ANY(${picks.map((pick) => pick.product)})) DESC, m.kind DESC
    LIMIT 2
  `;
  const wanted = new Set(picks.map((pick) => pick.product));
  const found = rows.find((row) => wanted.has(row.product)) ?? rows[0];
  return (
    found ??
    refuse(
      'mark.unknown',
      `There is no lot or serial ${shown(number)}. Scan it again, or look it up.`,
      shown(number)
    )
  );
}

async function take(
  tx: Tx,
  actor: Actor,
  order: OrderRow,
  picks: readonly PickRecord[],
  mark: Pickable,
  given: PickGiven,
  day: string
): Promise<PickAnswer> {
  const own = picks.filter((pick) => pick.mark === mark.id);
  const name = `${mark.number} of ${mark.product}`;
  const place =
    given.place === undefined
      ? undefined
      : ((mark.places ?? []).find((one) => numberKey(one.code) === numberKey(given.place!)) ??
        refuse(
          'stock.short',
          `${name} does not lie at ${shown(given.place)}: it lies at ${(mark.places ?? []).map((one) => one.code).join(' and ') || 'no place here'}.`,
          mark.number
        ));
  const waiting = own.filter((pick) => pick.picked !== pick.quantity);
  if (own.length > 0 && waiting.length === 0)
    return { said: `${name} is picked already.`, pick: own[0]!, moved: false, already: true };
  if (!mark.places?.length)
    refuse('stock.short', `${name} is not on hand. Scan another.`, mark.number);
  checkUsableNow(mark, day, refuse);
  const row =
    (place ? waiting.find((pick) => pick.place === place.code) : waiting[0]) ??
    waiting[0] ??
    picks.find(
      (pick) => pick.mark === null && pick.product === mark.product && pick.picked === '0'
    );
  if (!row) {
    const same = picks.filter(
      (pick) => pick.fell === null && pick.product === mark.product && pick.picked !== pick.quantity
    );
    return refuse(
      'mark.wrong-product',
      same.length > 0
        ? `${name} is not on the list, which says ${same
            .slice(0, 3)
            .map((pick) => pick.number)
            .join(', ')}. Fetch that, or swap it for this one.`
        : picks.some((pick) => pick.product === mark.product)
          ? `All ${mark.product} of ${order.number} are picked. Put ${mark.number} back.`
          : `${name} is not on ${order.number}. Put it back.`,
      mark.number
    );
  }
  if (row.mark === null) await nameSerial(tx, actor, order, row, mark, given, day);
  const open = quantity(row.quantity).minus(row.picked);
  const amount = given.quantity === undefined ? open : parseQuantity(given.quantity);
  if (!amount || amount.lte(0) || amount.gt(open))
    return refuse(
      'quantity.mismatch',
      `${formatQuantity(open)} ${mark.unit} of ${name} are to be fetched here; “${shown(given.quantity ?? '')}” cannot be.`,
      mark.number
    );
  const lies = place ?? mark.places!.find((one) => one.code === row.place) ?? mark.places![0]!;
  const moved = row.listed !== null && lies.code !== row.listed;
  if (amount.gt(lies.quantity))
    refuse(
      'stock.short',
      `${formatQuantity(quantity(lies.quantity))} ${mark.unit} of ${name} lie at ${lies.code}; ${formatQuantity(amount)} cannot be fetched there.`,
      mark.number
    );
  await tx`
    UPDATE pick
    SET picked = picked + ${amount.toFixed()}, picked_by = ${actor.personId},
      picked_at = clock_timestamp(), place_id = ${lies.id}
    WHERE id = ${row.id}
  `;
  const [pick] = (await readPicks(tx, order.id, day)).filter((one) => one.id === row.id);
  const amountSaid =
    mark.kind === 'serial' ? name : `${formatQuantity(amount)} ${mark.unit} of ${name}`;
  return {
    said: moved
      ? `${amountSaid} picked. It lies at ${lies.code}, not at ${row.listed}: the list says ${lies.code} now.`
      : `${amountSaid} picked${row.place === null ? ` at ${lies.code}` : ''}.`,
    pick: pick!,
    moved,
    already: false
  };
}

/** A serial named only now: free, and then promised to this order. */
async function nameSerial(
  tx: Tx,
  actor: Actor,
  order: OrderRow,
  row: PickRecord,
  mark: Pickable,
  { reasons, approvals }: PickGiven,
  day: string
): Promise<void> {
  const promised = await tx<
    { line: number; lot: string | null; serial: string | null; quantity: string }[]
  >`
    SELECT r.line, CASE WHEN m.kind = 'lot' THEN m.number END AS lot,
      CASE WHEN m.kind = 'serial' THEN m.number END AS serial, r.quantity
    FROM reservation r
      JOIN mark m ON m.id = r.mark_id
    WHERE r.order_id = ${order.id}
  `;
  const all: GivenPromise[] = [
    ...promised.map((one) => ({
      line: one.line,
      quantity: one.quantity,
      ...(one.serial === null ? { lot: one.lot! } : { serial: one.serial })
    })),
    {
      line: row.line,
      ...(mark.kind === 'serial' ? { serial: mark.number } : { lot: mark.number }),
      quantity: row.quantity
    }
  ];
  await promiseIn(tx, actor, order, all, { until: null, day, keepDays: true, reasons, approvals });
  await tx`UPDATE pick SET mark_id = ${mark.id} WHERE id = ${row.id}`;
}

interface SwapGiven extends Pick<HowPromised, 'reasons' | 'approvals'> {
  from: string;
  to: string;
}

/**
 * Swaps a serial or lot of an order, named or picked, for another that is free. Until dispatch;
 * what is packed is taken out first.
 * @throws Problem 403, 404, 409, 422
 */
export async function swapMark(
  sql: Sql,
  actor: Actor,
  number: string,
  { from, to, reasons, approvals }: SwapGiven,
  day: string
): Promise<{ picks: PickRecord[] }> {
  requireRight(actor, 'promise');
  return (await sql.begin(async (tx) => {
    const order = await lockOrder(tx, number);
    const promised = await tx<
      {
        line: number;
        mark: number;
        kind: string;
        number: string;
        product: string;
        quantity: string;
        packed: string | null;
      }[]
    >`
      SELECT r.line, r.mark_id AS mark, m.kind, m.number, p.code AS product, r.quantity,
        (
          SELECT u.sscc
          FROM unit_content c
            JOIN logistic_unit u ON u.id = c.unit_id
          WHERE c.mark_id = m.id AND c.quantity > 0 AND NOT c.shipped
          LIMIT 1
        ) AS packed
      FROM reservation r
        JOIN mark m ON m.id = r.mark_id
        JOIN product p ON p.id = m.product_id
      WHERE r.order_id = ${order.id}
    `;
    const old = promised.find((one) => numberKey(one.number) === numberKey(from));
    const wrong = (code: string, path: string, message: string, number: string): never => {
      throw new Problem(
        422,
        'Not swapped',
        [{ code, path, number, message }],
        'Nothing was changed.'
      );
    };
    if (!old)
      return wrong(
        'mark.unknown',
        'from',
        `${shown(from)} is not promised to ${order.number}. Check the number.`,
        shown(from)
      );
    if (old.packed) wrong('mark.duplicate', 'from', sayPacked(old.number, old.packed), old.number);
    const given = promised.map((one): GivenPromise => {
      const next = one === old ? to : one.number;
      return {
        line: one.line,
        quantity: one.quantity,
        ...(one.kind === 'serial' ? { serial: next } : { lot: next })
      };
    });
    await promiseIn(tx, actor, order, given, {
      until: null,
      day,
      keepDays: true,
      reasons,
      approvals
    });
    const [mark] = await tx<{ id: number; place: number | null }[]>`
      SELECT m.id,
        (
          SELECT s.place_id
          FROM stock s
          WHERE s.mark_id = m.id AND s.quantity > 0 AND ${isFreePlace(tx, tx`s.place_id`)}
          ORDER BY s.quantity DESC
          LIMIT 1
        ) AS place
      FROM mark m
        JOIN reservation r ON r.mark_id = m.id AND r.order_id = ${order.id} AND r.line = ${old.line}
      WHERE m.number_key = ${numberKey(to)}
    `;
    await tx`
      UPDATE pick
      SET mark_id = ${mark!.id}, place_id = ${mark!.place}, picked = 0, picked_by = NULL,
        picked_at = NULL
      WHERE order_id = ${order.id} AND line = ${old.line} AND mark_id = ${old.mark}
    `;
    return { picks: await readPicks(tx, order.id, day) };
  })) as { picks: PickRecord[] };
}

/** Puts a picked row back where it lay. @throws Problem 403, 404 */
export async function putBack(
  sql: Sql,
  actor: Actor,
  number: string,
  pick: number,
  day: string
): Promise<{ picks: PickRecord[] }> {
  requireRight(actor, 'book.ship');
  return (await sql.begin(async (tx) => {
    const order = await lockOrder(tx, number);
    const [row] = await tx`
      UPDATE pick
      SET picked = 0, picked_by = NULL, picked_at = NULL
      WHERE id = ${pick} AND order_id = ${order.id}
      RETURNING id
    `;
    if (!row) notFound('pick', String(pick));
    return { picks: await readPicks(tx, order.id, day) };
  })) as { picks: PickRecord[] };
}
