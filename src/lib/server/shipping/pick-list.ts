import { isFreePlace } from '../kernel/db/what-counts.ts';
import { sayPacked } from '../../core/shipping/say-packed.ts';
import { numberKey, shown } from '../../core/numbers/number.ts';
import { decidePick } from '../../core/shipping/decide-pick.ts';
import type { Pickable, PickRecord } from '../../core/shipping/pick-record.ts';
import { readPicks } from './picks.ts';
import type { Actor } from '../kernel/actor.ts';
import { requireRight } from '../kernel/rights.ts';
import { notFound, Problem } from '../kernel/problem.ts';
import type { Sql, Tx } from '../kernel/db/client.ts';
import { lockOpenOrder, type LockedOrder } from '../orders/lock-order.ts';
import { notPicked } from './not-picked.ts';
import { scannedMark } from './scanned-mark.ts';
import { promiseIn, type GivenPromise, type HowPromised } from './promises.ts';

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
    const order = await lockOpenOrder(tx, 'sales', number, 'something is picked for it');
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

/** What a scan does to the list, once it is decided. */
async function take(
  tx: Tx,
  actor: Actor,
  order: LockedOrder,
  picks: readonly PickRecord[],
  mark: Pickable,
  given: PickGiven,
  day: string
): Promise<PickAnswer> {
  const decision = decidePick(picks, mark, given, order.number, day);
  if (decision.is === 'refused') return notPicked(decision.code, decision.message, decision.number);
  const { stop, said } = decision;
  if (decision.is === 'already') return { said, pick: stop, moved: false, already: true };
  if (stop.mark === null) await nameSerial(tx, actor, order, stop, mark, given, day);
  await tx`
    UPDATE pick
    SET picked = picked + ${decision.amount.toFixed()}, picked_by = ${actor.personId},
      picked_at = clock_timestamp(), place_id = ${decision.lies.id}
    WHERE id = ${stop.id}
  `;
  const after = await readPicks(tx, order.id, day);
  const pick = after.find((one) => one.id === stop.id)!;
  return { said, pick, moved: decision.moved, already: false };
}

/** A serial named only now: free, and then promised to this order. */
async function nameSerial(
  tx: Tx,
  actor: Actor,
  order: LockedOrder,
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
    const order = await lockOpenOrder(tx, 'sales', number, 'something is picked for it');
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
    const order = await lockOpenOrder(tx, 'sales', number, 'something is picked for it');
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
