import { z } from 'zod';
import { countWants, decideCount } from '../../../core/stock/decide-count.ts';
import type { Fault } from '../../../core/faults/fault.ts';
import type {
  BornWith,
  CountApproval as ApprovalRequest,
  CountDifference
} from '../../../core/ledger/request.ts';
import { numberKey } from '../../../core/numbers/number.ts';
import { formatQuantity, quantity } from '../../../core/quantity/quantity.ts';
import type { Actor } from '../../kernel/actor.ts';
import { carryCosts } from '../costs/carry-costs.ts';
import { within, type Db, type Sql, type Tx } from '../../kernel/db/client.ts';
import { Problem } from '../../kernel/problem.ts';
import { requireRight } from '../../kernel/rights.ts';
import { book, refusal, type BookingKind, type Circumstances } from '../../ledger/book.ts';
import type { CountApproval } from './schemas.ts';
import type { CountHead } from './count-head.ts';
import { lockOpen } from './write-entries.ts';
import { inScope, isNotEntered } from './count-lines.ts';

type Given = z.infer<typeof CountApproval>;

/**
 * Approves a count: what was off is booked at once, as one event, by somebody who did not count.
 * @param key idempotency key: sent again, the same answer
 * @throws Problem 403, 404, 409 where somebody counts on meanwhile, 422 with all faults
 */
export async function approveCount(
  sql: Sql,
  actor: Actor,
  key: string,
  document: string,
  given: Given
): Promise<{ answer: string; fresh: boolean }> {
  requireRight(actor, 'book.correct');
  await carryCosts(sql);
  return within(sql, async (tx) => {
    const before = await answeredBefore(tx, actor, key, document);
    if (before !== null) return { answer: before, fresh: false };
    const head = await lockOpen(tx, document, 'ending');
    const faults = [...(await countedThemselves(tx, head, actor)), ...(await notCounted(tx, head))];
    if (faults.length > 0) throw refusal(faults);
    const { lines, last } = await readDifferences(tx, head, given.unitCosts ?? []);
    const { reason, reasons, signature } = given;
    const request = {
      ...{ document: head.document, reason, lines },
      ...(reasons ? { reasons } : {}),
      ...(signature ? { signature } : {})
    };
    return book(tx, approvalOf(head, actor, last), actor, key, request);
  });
}

/** The answer this very approval got before; null where it is new. */
async function answeredBefore(
  tx: Tx,
  actor: Actor,
  key: string,
  document: string
): Promise<string | null> {
  const [row] = await tx<{ answer: string }[]>`
    SELECT b.answer
    FROM booking_key b
      JOIN stock_count k ON k.approved_event = b.event_id
    WHERE b.person_id = ${actor.personId}
      AND b.key = ${key}
      AND upper(k.document) = ${numberKey(document)}
  `;
  return row?.answer ?? null;
}

/** The booking of one count; with it the count ends, unless somebody counted on. */
const approvalOf = (
  head: CountHead,
  actor: Actor,
  last: number
): BookingKind<ApprovalRequest & Circumstances> => ({
  path: 'counts',
  summary: 'Approve a count',
  schema: z.custom<ApprovalRequest & Circumstances>(),
  rights: ['book.correct'],
  right: 'book.correct',
  eventKinds: ['count'],
  eventKind: () => 'count',
  wants: countWants,
  decide: decideCount,
  after: async (tx, event) => {
    const ended = await tx`
      UPDATE stock_count k
      SET approved_event = ${event}, approved_at = clock_timestamp(),
        approved_by = ${actor.personId},
        reason = (SELECT reason FROM event WHERE id = ${event})
      WHERE k.id = ${head.id}
        AND (SELECT coalesce(max(e.id), 0) FROM count_entry e WHERE e.count_id = k.id) = ${last}
      RETURNING k.id
    `;
    if (ended.length === 0)
      throw new Problem(409, 'Somebody counts on', [
        {
          code: 'count.closed',
          path: 'document',
          number: head.document,
          message: `Something more was counted on ${head.document} just now. Look at it again, then approve it.`
        }
      ]);
    await tx`UPDATE count_place SET open = false WHERE count_id = ${head.id}`;
  }
});

/** Whoever counted does not approve: two pairs of eyes. */
async function countedThemselves(db: Db, head: CountHead, actor: Actor): Promise<Fault[]> {
  const [own] = await db`
    SELECT
    FROM count_entry
    WHERE count_id = ${head.id} AND counted_by = ${actor.personId} AND counted IS NOT NULL
    UNION ALL
    SELECT FROM count_place WHERE count_id = ${head.id} AND done_by = ${actor.personId}
    LIMIT 1
  `;
  if (!own) return [];
  const message = `You counted on ${head.document} yourself. Have somebody approve it who did not.`;
  return [{ code: 'approval.missing', path: 'document', number: head.document, message }];
}

/** What lies in the scope by the ledger and nobody said anything of, by place. */
async function notCounted(db: Db, head: CountHead): Promise<Fault[]> {
  const places = await db<{ code: string; marks: number }[]>`
    SELECT (SELECT c.code FROM place c WHERE c.id = p.place_id) AS code, count(*)::int AS marks
    FROM count_place p
      JOIN stock s ON s.place_id = p.place_id AND s.quantity > 0
      JOIN mark m ON m.id = s.mark_id
    WHERE p.count_id = ${head.id}
      AND p.done_at IS NULL
      AND ${inScope(db, head)}
      AND ${isNotEntered(db, head.id)}
    GROUP BY p.place_id
    ORDER BY code
  `;
  return places.map(({ code, marks }) => ({
    code: 'mark.missing',
    path: 'places',
    number: code,
    message: `${marks === 1 ? 'One lot or serial' : `${marks} lots and serials`} at ${code} ${marks === 1 ? 'is' : 'are'} not counted. Count on, or say that all of ${code} is counted: then they are not there.`
  }));
}

interface Standing extends CountDifference {
  kind: 'lot' | 'serial' | 'bulk';
  number: string | null;
  within: string | null;
  born: BornWith;
}

/** What was off when it was counted, line by line; and the last entry that is in it. */
export async function readDifferences(
  db: Db,
  head: CountHead,
  costs: NonNullable<Given['unitCosts']>
): Promise<{ lines: CountDifference[]; last: number }> {
  const rows = await db<Standing[]>`
    SELECT p.code AS product, c.code AS place, e.kind, e.number, e.lot AS within, e.counted,
      e.seen, e.born
    FROM count_standing e
      JOIN product p ON p.id = e.product_id
      JOIN place c ON c.id = e.place_id
    WHERE e.count_id = ${head.id} AND e.counted <> e.seen
    ORDER BY c.code, p.code, e.number_key
  `;
  const [{ last }] = await db<[{ last: number }]>`
    SELECT coalesce(max(id), 0) AS last FROM count_entry WHERE count_id = ${head.id}
  `;
  return { lines: rows.map((row) => asDifference(row, costs)), last };
}

function asDifference(row: Standing, costs: NonNullable<Given['unitCosts']>): CountDifference {
  const { product, place, kind, number, within: lot, born } = row;
  const same = (a: string | undefined, b: string | null) =>
    (a ? numberKey(a) : '') === (b ? numberKey(b) : '');
  const cost = costs.find(
    (one) =>
      same(one.product, product) &&
      (kind === 'serial' ? same(one.serial, number) : same(one.lot, kind === 'lot' ? number : null))
  );
  return {
    product,
    place,
    ...(kind === 'lot' ? { lot: number! } : {}),
    ...(kind === 'serial' ? { serial: number!, ...(lot ? { lot } : {}) } : {}),
    counted: formatQuantity(quantity(row.counted)),
    seen: formatQuantity(quantity(row.seen)),
    ...born,
    ...(cost ? { unitCost: cost.unitCost } : {})
  };
}

/** Ends a count without booking anything. @throws Problem 404, 422 */
export async function cancelCount(sql: Sql, actor: Actor, document: string): Promise<void> {
  await within(sql, async (tx) => {
    const head = await lockOpen(tx, document, 'ending');
    await tx`
      UPDATE stock_count
      SET cancelled_at = clock_timestamp(), cancelled_by = ${actor.personId}
      WHERE id = ${head.id}
    `;
    await tx`UPDATE count_place SET open = false WHERE count_id = ${head.id}`;
  });
}
