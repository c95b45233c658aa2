import { isFreePlace, stateOf } from '../kernel/db/what-counts.ts';
import { numberKey, readNumber, shown } from '../../core/numbers/number.ts';
import { formatQuantity, parseQuantity, quantity } from '../../core/quantity/quantity.ts';
import type { Note, Reasons } from '../../core/faults/fault.ts';
import type { Actor } from '../kernel/actor.ts';
import { requireRight } from '../kernel/rights.ts';
import { Problem, type FormError } from '../kernel/problem.ts';
import type { Sql, Tx } from '../kernel/db/client.ts';
import { lockOpenOrder } from '../orders/lock-order.ts';
import { readVerdicts } from '../catalogue/verdicts.ts';
import { limitsFor, readSpecs } from '../catalogue/specs.ts';
import { checkWishes, keepRemarks } from './promised-wishes.ts';

export interface GivenPromise {
  line: number;
  lot?: string;
  serial?: string;
  quantity?: string;
}

/** How something is promised. */
export interface HowPromised {
  /** The last day the promise counts; null for as long as the order is open. */
  until: string | null;
  /** Today, `YYYY-MM-DD`. */
  day: string;
  /** What was promised before keeps its own last day. */
  keepDays?: true;
  /** What lets it go on in spite of what the customer wishes. */
  reasons?: Reasons | undefined;
  approvals?: readonly string[] | undefined;
}

export interface PromisedAnswer {
  promised: number;
  /** What the plan only shows: a wish that is not met. */
  notes: Note[];
}

/**
 * Promises marks, or so much of them, to the lines of a sales order, in place of what it was
 * promised before.
 * @throws Problem 403, 404, 409 for a closed order, 422 with everything that is wrong: what is not
 * there, not usable, promised to somebody else, with whom, or not what the customer wishes
 */
export async function promise(
  sql: Sql,
  actor: Actor,
  number: string,
  given: readonly GivenPromise[],
  how: HowPromised
): Promise<PromisedAnswer> {
  requireRight(actor, 'promise');
  return (await sql.begin(async (tx) => {
    const order = await lockOpenOrder(tx, 'sales', number, 'something is promised to it');
    return await promiseIn(tx, actor, order, given, how);
  })) as PromisedAnswer;
}

/**
 * The same within a transaction that has locked the order. What does not meet the customer's spec,
 * is refused here already; what does not meet their wishes is answered as the plan says.
 */
export async function promiseIn(
  tx: Tx,
  actor: Actor,
  order: { id: number; number: string },
  given: readonly GivenPromise[],
  how: HowPromised
): Promise<PromisedAnswer> {
  const { until, day } = how;
  const days = how.keepDays
    ? new Map(
        (
          await tx<
            { mark_id: number; until: string | null }[]
          >`SELECT mark_id, until FROM reservation WHERE order_id = ${order.id}`
        ).map((row) => [row.mark_id, row.until])
      )
    : new Map<number, string | null>();
  const lines = new Map(
    (
      await tx<{ line: number; id: number; code: string; unit: string }[]>`
        SELECT l.line, p.id, p.code, p.unit
        FROM order_line l
          JOIN product p ON p.id = l.product_id
        WHERE l.order_id = ${order.id}
      `
    ).map((row) => [row.line, row])
  );
  await tx`DELETE FROM reservation WHERE order_id = ${order.id}`;
  const errors: FormError[] = [];
  const rows = await Promise.all(
    given.map((one, index) => readOne(tx, one, `lines[${index}]`, lines, errors))
  );
  const good = rows.filter((row) => row !== null);
  await checkFree(tx, good, day, errors);
  await checkFit(tx, order.id, good, errors);
  const wishes = await checkWishes(tx, actor, order, good, how);
  errors.push(...wishes.list);
  if (errors.length > 0)
    throw new Problem(
      422,
      'This cannot be promised',
      errors.sort((a, b) => (a.path < b.path ? -1 : 1)),
      'Nothing was changed.'
    );
  if (good.length > 0)
    await tx`
      INSERT INTO reservation (order_id, line, mark_id, quantity, promised_by, until)
      SELECT ${order.id}::bigint, line, mark_id, sum(quantity), ${actor.personId}::bigint,
        min(until)::date
      FROM unnest(
        ${good.map((row) => row.line)}::int[], ${good.map((row) => row.mark)}::bigint[],
          ${good.map((row) => row.quantity)}::numeric[],
          ${good.map((row) => (days.has(row.mark) ? days.get(row.mark)! : until))}::text[]
      ) AS t (line, mark_id, quantity, until)
      GROUP BY line, mark_id
    `;
  await keepRemarks(tx, actor, order.id, wishes.remarks);
  return { promised: good.length, notes: wishes.notes };
}

/** What does not conform to this customer's limits is not promised to them. */
async function checkFit(
  tx: Tx,
  orderId: number,
  rows: readonly Row[],
  errors: FormError[]
): Promise<void> {
  const products = [...new Set(rows.map((row) => row.product))];
  const specs = await readSpecs(tx, products);
  if (specs.length === 0) return;
  const [partner] = await tx<
    { code: string }[]
  >`SELECT t.code FROM trade_order o JOIN partner t ON t.id = o.partner_id WHERE o.id = ${orderId}`;
  const verdicts = await readVerdicts(
    tx,
    rows.map((row) => ({
      id: row.mark,
      spec: limitsFor(specs, row.product, partner?.code ?? null)
    }))
  );
  for (const row of rows) {
    const judged = verdicts.get(row.mark);
    if (judged?.verdict === 'does not conform')
      errors.push({
        code: 'mark.off-spec',
        path: row.path,
        number: row.number,
        message: `${row.number} of ${row.product} does not conform to what this customer asks: ${judged.judged
          .filter((one) => one.verdict === 'does not conform')
          .map((one) => one.why)
          .join('; ')}. Take another.`
      });
  }
}

interface Row {
  path: string;
  line: number;
  mark: number;
  number: string;
  product: string;
  quantity: string;
}

async function readOne(
  tx: Tx,
  one: GivenPromise,
  path: string,
  lines: ReadonlyMap<number, { id: number; code: string }>,
  errors: FormError[]
): Promise<Row | null> {
  const line = lines.get(one.line);
  const text = one.serial ?? one.lot ?? '';
  if (!line) {
    errors.push({ code: 'mark.unknown', path, message: `The order has no line ${one.line}.` });
    return null;
  }
  const [mark] = readNumber(text).ok
    ? await tx<{ id: number; state: string; number: string }[]>`
      SELECT m.id,
        ${stateOf(tx)} AS state,
        m.number
      FROM mark m
        LEFT JOIN mark l ON l.id = m.lot_id
      WHERE m.product_id = ${line.id}
        AND m.kind = ${one.serial === undefined ? 'lot' : 'serial'}
        AND m.number_key = ${numberKey(text)}
    `
    : [];
  if (!mark) {
    errors.push({
      code: 'mark.unknown',
      path,
      number: shown(text),
      message: `There is no ${one.serial === undefined ? 'lot' : 'serial'} ${shown(text)} of ${line.code}. Check the number.`
    });
    return null;
  }
  if (mark.state !== 'usable')
    errors.push({
      code: mark.state === 'held' ? 'mark.held' : 'mark.rejected',
      path,
      number: mark.number,
      message: `${mark.number} is ${mark.state}; it cannot be promised.`
    });
  const amount = parseQuantity(one.quantity ?? '1');
  if (amount === null || amount.lte(0)) {
    errors.push({
      code: 'quantity.mismatch',
      path,
      number: mark.number,
      message: `“${shown(one.quantity ?? '')}” is no quantity above zero.`
    });
    return null;
  }
  return {
    path,
    line: one.line,
    mark: mark.id,
    number: mark.number,
    product: line.code,
    quantity: amount.toFixed()
  };
}

/**
 * What is promised to all orders together is never more than there is. The stock rows are locked in
 * order, as a booking locks them.
 */
async function checkFree(
  tx: Tx,
  rows: readonly Row[],
  day: string,
  errors: FormError[]
): Promise<void> {
  const ids = [...new Set(rows.map((row) => row.mark))];
  if (ids.length === 0) return;
  const stock = new Map<number, string>();
  for (const row of await tx<{ mark_id: number; quantity: string }[]>`
    SELECT mark_id, quantity
    FROM stock
    WHERE mark_id = ANY(${ids}) AND ${isFreePlace(tx, tx`place_id`)}
    ORDER BY mark_id, place_id
    FOR UPDATE
  `)
    stock.set(
      row.mark_id,
      quantity(stock.get(row.mark_id) ?? '0')
        .plus(row.quantity)
        .toFixed()
    );
  const others = new Map(
    (
      await tx<{ mark: number; quantity: string; orders: string }[]>`
        SELECT r.mark_id AS mark, sum(r.quantity) AS quantity,
          string_agg(o.number || coalesce(' for ' || t.name, ''), ', ') AS orders
        FROM reservation r
          JOIN trade_order o ON o.id = r.order_id
          LEFT JOIN partner t ON t.id = o.partner_id
        WHERE r.mark_id = ANY(${ids})
          AND o.closed_at IS NULL
          AND coalesce(r.until, 'infinity') >= ${day}
        GROUP BY r.mark_id
      `
    ).map((row) => [row.mark, row])
  );
  const asked = new Map<number, ReturnType<typeof quantity>>();
  for (const row of rows) {
    const sum = (asked.get(row.mark) ?? quantity(0)).plus(row.quantity);
    asked.set(row.mark, sum);
    const there = quantity(stock.get(row.mark) ?? '0'),
      promised = quantity(others.get(row.mark)?.quantity ?? '0');
    if (sum.lte(there.minus(promised))) continue;
    errors.push(
      promised.gt(0)
        ? {
            code: 'mark.reserved',
            path: row.path,
            number: row.number,
            message: `${row.number} of ${row.product}: ${formatQuantity(there)} on hand, ${formatQuantity(promised)} of it promised to ${others.get(row.mark)!.orders}. Take another, or have that promise taken back.`
          }
        : {
            code: 'stock.short',
            path: row.path,
            number: row.number,
            message: `${row.number} of ${row.product} has ${formatQuantity(there)} on hand, and ${formatQuantity(sum)} are promised here.`
          }
    );
  }
}
