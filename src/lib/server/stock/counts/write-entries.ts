import type { z } from 'zod';
import { readEntries, type CountEntry } from '../../../core/stock/count-entries.ts';
import { onePerLine, type Wants } from '../../../core/ledger/request.ts';
import type { Note } from '../../../core/faults/fault.ts';
import { formatQuantity } from '../../../core/quantity/quantity.ts';
import { numberKey, shown } from '../../../core/numbers/number.ts';
import type { Actor } from '../../kernel/actor.ts';
import { within, type Json, type Sql, type Tx } from '../../kernel/db/client.ts';
import { Problem } from '../../kernel/problem.ts';
import { refusal } from '../../ledger/book.ts';
import { readSnapshot } from '../../ledger/read-snapshot.ts';
import type { CountEntries } from './schemas.ts';
import { readCountHead, scopeOf, type CountHead } from './count-head.ts';
import { inScope, isNotEntered } from './count-lines.ts';

type Given = z.infer<typeof CountEntries>;

/**
 * Keeps what somebody counted, and which places are done: what lies there by the ledger and was not
 * named is then counted as not there.
 * @returns what is worth saying of single lines
 * @throws Problem 404, 422 with all faults, or where the count has ended
 */
export async function writeEntries(
  sql: Sql,
  actor: Actor,
  document: string,
  { lines, done }: Given
): Promise<{ notes: Note[] }> {
  return within(sql, async (tx) => {
    const head = await lockOpen(tx, document, 'counting');
    const snapshot = await readSnapshot(tx, wantsOf(lines), null, true);
    const { entries, faults, notes } = readEntries(snapshot, scopeOf(head), lines);
    if (faults.length > 0) throw refusal(faults);
    await keepEntries(tx, head, actor, entries);
    await openAgain(tx, head, entries);
    if (done.length > 0) await keepDone(tx, head, actor, done);
    return { notes };
  });
}

const wantsOf = (lines: Given['lines']): Wants => ({
  products: lines.map((line) => line.product),
  places: lines.map((line) => line.place),
  partner: null,
  order: null,
  marks: onePerLine(lines),
  draws: true
});

/**
 * The count, kept open while something is written: by many who count at once, or by the one who
 * ends it.
 * @throws Problem 404, 422
 */
export async function lockOpen(
  tx: Tx,
  document: string,
  by: 'counting' | 'ending'
): Promise<CountHead> {
  await tx`
    SELECT
    FROM stock_count
    WHERE upper(document) = ${numberKey(document)}
    FOR ${by === 'ending' ? tx`UPDATE` : tx`SHARE`}
  `;
  const head = await readCountHead(tx, document);
  if (head.state === 'open') return head;
  throw new Problem(422, 'The count has ended', [
    {
      code: 'count.closed',
      path: 'document',
      number: shown(document),
      message: `${head.document} was ${head.state}${head.endedBy ? ` by ${head.endedBy}` : ''}. Open another count of these places.`
    }
  ]);
}

async function keepEntries(
  tx: Tx,
  { id }: CountHead,
  actor: Actor,
  entries: readonly CountEntry[]
): Promise<void> {
  if (entries.length === 0) return;
  const of = <T>(pick: (entry: CountEntry) => T): T[] => entries.map(pick);
  await tx`
    INSERT INTO count_entry (
      count_id, place_id, product_id, kind, number, lot, counted, seen, born, counted_by
    )
    SELECT ${id}::bigint, place_id, product_id, kind, number, lot, counted, seen, born, ${actor.personId}::bigint
    FROM unnest(
      ${of((entry) => entry.place.id)}::bigint[], ${of((entry) => entry.product.id)}::bigint[],
      ${of((entry) => entry.identity.kind)}::text[],
      ${of((entry) => entry.identity.number || null)}::text[],
      ${of((entry) => entry.identity.lot)}::text[],
      ${of(({ counted }) => (counted === null ? null : formatQuantity(counted)))}::text[]::numeric[],
      ${of((entry) => formatQuantity(entry.seen))}::text[]::numeric[],
      ${of((entry) => JSON.stringify(bornOf(entry)))}::text[]::jsonb[]
    ) w (place_id, product_id, kind, number, lot, counted, seen, born)
  `;
}

/** A place of which something is to be counted again is not done. */
async function openAgain(tx: Tx, { id }: CountHead, entries: readonly CountEntry[]): Promise<void> {
  const places = entries.filter((one) => one.counted === null).map((one) => one.place.id);
  if (places.length === 0) return;
  await tx`
    UPDATE count_place
    SET done_at = NULL, done_by = NULL
    WHERE count_id = ${id} AND place_id = ANY(${places})
  `;
}

/** What is said of a mark that may never have been known. */
function bornOf({ line }: CountEntry): Json {
  const { made, expires, retest, supplierNumber, facts } = line;
  return JSON.parse(JSON.stringify({ made, expires, retest, supplierNumber, facts })) as Json;
}

/** @throws Problem 422 where a place is not of the count */
async function keepDone(
  tx: Tx,
  head: CountHead,
  actor: Actor,
  codes: readonly string[]
): Promise<void> {
  const byCode = new Map(head.places.map((place) => [numberKey(place.code), place.id]));
  const foreign = codes.filter((code) => !byCode.has(numberKey(code)));
  if (foreign.length > 0)
    throw refusal(
      foreign.map((code) => ({
        code: 'place.unknown',
        path: 'done',
        number: shown(code),
        message: `${shown(code)} is not counted by ${head.document}.`
      }))
    );
  const places = codes.map((code) => byCode.get(numberKey(code))!);
  await tx`
    INSERT INTO count_entry (
      count_id, place_id, product_id, kind, number, counted, seen, counted_by
    )
    SELECT ${head.id}::bigint, s.place_id, m.product_id, m.kind, m.number, 0, s.quantity,
      ${actor.personId}::bigint
    FROM stock s
      JOIN mark m ON m.id = s.mark_id
    WHERE s.place_id = ANY(${places})
      AND s.quantity > 0
      AND ${inScope(tx, head)}
      AND ${isNotEntered(tx, head.id)}
  `;
  await tx`
    UPDATE count_place
    SET done_at = clock_timestamp(), done_by = ${actor.personId}
    WHERE count_id = ${head.id} AND place_id = ANY(${places})
  `;
}
