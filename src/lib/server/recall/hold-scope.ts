import type { Actor } from '../kernel/actor.ts';
import type { Db, Sql } from '../kernel/db/client.ts';
import { requireRight } from '../kernel/rights.ts';
import { book } from '../ledger/book.ts';
import { quality } from '../quality/kinds.ts';
import { keyUsed, lockCase, log, stillOpen, type CaseRow } from './case-row.ts';
import { liveScope } from './live-scope.ts';

export interface HeldScope {
  held: number;
  event: number | null;
  /** Products of goods without a number: those cannot be held. */
  unnumbered: string[];
}

/**
 * Holds everything of the scope that lies here and still may be used, in one booking. A drill holds
 * nothing and says what it would have held. @throws Problem 403, 404, 409
 */
export async function holdScope(
  sql: Sql,
  actor: Actor,
  number: string,
  key: string
): Promise<HeldScope> {
  requireRight(actor, 'recall');
  const row = (await sql.begin((tx) => lockCase(tx, number))) as CaseRow;
  const before = await heldBefore(sql, actor, row.id, key);
  if (before) return before;
  stillOpen(row);
  const { named, unnumbered } = await whatToHold(sql, row.id, row.beyondTime);
  const answer: HeldScope = { held: named.length, event: null, unnumbered };
  if (row.mock || named.length === 0) return keepHold(sql, row, actor, key, answer);
  return bookHold(sql, row, actor, key, named, answer);
}

/** The answer a request with this key had before. @throws Problem 409 where it was another case's */
async function heldBefore(
  sql: Db,
  actor: Actor,
  caseId: number,
  key: string
): Promise<HeldScope | null> {
  const [before] = await sql<{ answer: HeldScope; case_id: number }[]>`
    SELECT answer, case_id
    FROM recall_hold
    WHERE held_by = ${actor.personId} AND key = ${key}
  `;
  if (before && before.case_id !== caseId) keyUsed(key);
  return before?.answer ?? null;
}

/** What of the scope lies here and may still be used; goods without a number by their product. */
async function whatToHold(
  sql: Sql,
  caseId: number,
  beyondTime: boolean
): Promise<{ named: Named[]; unnumbered: string[] }> {
  const suspects = await sql<
    { id: number }[]
  >`SELECT mark_id AS id FROM recall_suspect WHERE case_id = ${caseId}`;
  const live = await liveScope(
    sql,
    suspects.map((one) => one.id),
    beyondTime
  );
  const marks = await sql<{ product: string; kind: string; number: string | null }[]>`
    SELECT p.code AS product, m.kind, m.number
    FROM mark m
      JOIN product p ON p.id = m.product_id
    WHERE m.id = ANY(${[...new Set(live.here.map((one) => one.mark))]}) AND m.state = 'usable'
    ORDER BY m.id
  `;
  const numbered = marks.filter((mark) => mark.kind !== 'bulk');
  const rest = marks.filter((mark) => mark.kind === 'bulk');
  return {
    named: numbered.map(({ product, kind, number }) =>
      kind === 'serial' ? { product, serial: number! } : { product, lot: number! }
    ),
    unnumbered: [...new Set(rest.map((mark) => mark.product))]
  };
}

/** Books the hold; the case's log and the answer are kept in the same transaction. */
async function bookHold(
  sql: Sql,
  row: CaseRow,
  actor: Actor,
  key: string,
  named: Named[],
  answer: HeldScope
): Promise<HeldScope> {
  const kind: typeof quality = {
    ...quality,
    after: async (tx, event) => {
      await writeHold(tx, row, actor, key, { ...answer, event });
      await log(tx, row.id, actor, `${named.length} lots and serials held, event ${event}.`);
    }
  };
  // Who may decide a recall may hold for it.
  const request = {
    document: row.number,
    kind: 'hold' as const,
    reason: `Recall ${row.number}`,
    marks: named
  };
  try {
    await book(sql, kind, { ...actor, roles: ['quality'] }, key, request);
  } catch (error) {
    // The same request, sent twice at once: the other one held, and found other things usable.
    const other = await heldBefore(sql, actor, row.id, key);
    if (other) return other;
    throw error;
  }
  return (await heldBefore(sql, actor, row.id, key))!;
}

/** A drill holds nothing, and where nothing is left nothing is booked: both are answered once. */
const keepHold = async (
  sql: Sql,
  row: CaseRow,
  actor: Actor,
  key: string,
  answer: HeldScope
): Promise<HeldScope> =>
  (await sql.begin(async (tx) => {
    await lockCase(tx, row.number);
    const before = await heldBefore(tx, actor, row.id, key);
    if (before) return before;
    await writeHold(tx, row, actor, key, answer);
    const drill = `Drill: ${answer.held} lots and serials would have been held.`;
    await log(tx, row.id, actor, row.mock ? drill : 'Nothing was left to hold.');
    return answer;
  })) as HeldScope;

async function writeHold(
  tx: Db,
  row: CaseRow,
  actor: Actor,
  key: string,
  answer: HeldScope
): Promise<void> {
  await tx`
    INSERT INTO recall_hold (case_id, held_by, key, answer)
    VALUES (${row.id}, ${actor.personId}, ${key}, ${tx.json(answer as never)})
  `;
}

type Named = { product: string; serial: string } | { product: string; lot: string };
