import { marksAsked, type CostEvent } from '../../../core/stock/costs/cost-event.ts';
import { sameCost } from '../../../core/stock/costs/mix.ts';
import type { CostEntry, CostRow } from '../../../core/stock/costs/replay.ts';
import { takeCosts, type CostBook } from '../../../core/stock/costs/take-costs.ts';
import { ZERO } from '../../../core/quantity/quantity.ts';
import { within, type Sql, type Tx } from '../../kernel/db/client.ts';
import { correctCosts } from './correct-costs.ts';
import { readCostEvents } from './read-cost-events.ts';
import { readCostsBefore, readLyingBefore } from './read-costs.ts';
import { writeCosts, writeEntries } from './write-costs.ts';

/** Most movements that are passed at once, so that a long ledger is carried in little memory. */
const AT_ONCE = 20_000;

interface Pending {
  id: number;
  corrects: boolean;
  size: number;
}

/**
 * Brings what marks cost up to date with everything committed before: events in their order, each
 * once, by one at a time. Whoever reads costs asks for it first; where nothing was booked since it
 * is one question.
 */
export async function carryCosts(sql: Sql | Tx): Promise<void> {
  const [open] = await sql<{ open: boolean }[]>`
    SELECT EXISTS (SELECT FROM event e, cost_carried c WHERE ${isPending(sql)}) AS open
  `;
  if (!open!.open) return;
  await within(sql, async (tx) => {
    // Plans made while these tables were empty are kept by the connection: they are to look rows up
    // by index then already, not to read a whole table for each of ten thousand marks.
    await tx`
      SELECT set_config('enable_seqscan', 'off', true),
        pg_advisory_xact_lock(hashtextextended('costs', 0))
    `;
    const { events, snapshot } = await readPending(tx);
    for (const chunk of inChunks(events)) {
      if (chunk[0]!.corrects) await correctCosts(tx, chunk[0]!.id);
      else
        await pass(
          tx,
          chunk.map((one) => one.id)
        );
    }
    await tx`UPDATE cost_carried SET snapshot = ${snapshot}`;
  });
}

/** Whether an event (alias e) was not seen when costs were carried last (alias c). */
const isPending = (db: Sql | Tx) =>
  db`
    e.booked_xid >= pg_snapshot_xmin(c.snapshot::pg_snapshot)
      AND NOT pg_visible_in_snapshot(e.booked_xid, c.snapshot::pg_snapshot)
  `;

async function readPending(tx: Tx): Promise<{ events: Pending[]; snapshot: string }> {
  const [row] = await tx<{ snapshot: string; events: Pending[] | null }[]>`
    SELECT pg_current_snapshot()::text AS snapshot, (
      SELECT json_agg(pending ORDER BY pending.id)
      FROM (
        SELECT e.id,
          e.kind = 'reversal' OR EXISTS (
            SELECT FROM cost_told t WHERE t.event_id = e.id AND t.of_event IS NOT NULL
          ) AS corrects,
          (SELECT count(*) FROM movement v WHERE v.event_id = e.id)::int AS size
        FROM event e, cost_carried c
        WHERE ${isPending(tx)}
          AND e.kind NOT IN (
            'move', 'put away', 'transfer', 'pack', 'unpack', 'hold', 'release', 'reject',
              'station', 'amendment'
          )
      ) pending
    ) AS events
  `;
  return { snapshot: row!.snapshot, events: row!.events ?? [] };
}

/** Events that are passed together; one that corrects others stands alone. */
function* inChunks(events: readonly Pending[]): Generator<Pending[]> {
  let chunk: Pending[] = [];
  let size = 0;
  for (const event of events) {
    if (chunk.length > 0 && (event.corrects || chunk[0]!.corrects || size + event.size > AT_ONCE)) {
      yield chunk;
      [chunk, size] = [[], 0];
    }
    chunk.push(event);
    size += event.size;
  }
  if (chunk.length > 0) yield chunk;
}

async function pass(tx: Tx, ids: readonly number[]): Promise<void> {
  const events = await readCostEvents(tx, { events: ids });
  const book = await readBook(tx, events);
  const rows: (CostRow & { toldBy: number })[] = [];
  for (const event of events) {
    const { changed, worked } = takeCosts(book, event);
    for (const [mark, before] of changed) {
      const cost = book.costs.get(mark) ?? null;
      if (!sameCost(before, cost)) rows.push({ mark, event: event.id, cost, toldBy: event.id });
    }
    await writeEntries(tx, event.id, entriesOf(event, book, changed, worked));
  }
  await writeCosts(tx, rows);
}

/** What is known of the marks of events before the first of them. */
async function readBook(tx: Tx, events: readonly CostEvent[]): Promise<CostBook> {
  const first = events[0]?.id ?? 0;
  const named = new Set(
    events.flatMap((event) => [
      ...event.net.keys(),
      ...event.told.keys(),
      ...marksAsked(event),
      ...event.ties.flatMap((tie) => tie.outputs.map(({ mark }) => mark))
    ])
  );
  const costs = await readCostsBefore(tx, [...named], first);
  const lying = await readLyingBefore(tx, [...costs.keys()], first);
  return { costs, lying };
}

/** What a revaluation changed of the value that lies here, and what taking apart cost. */
function entriesOf(
  event: CostEvent,
  book: CostBook,
  before: ReadonlyMap<number, CostRow['cost']>,
  worked: ReadonlyMap<number, NonNullable<CostRow['cost']>>
): CostEntry[] {
  const valued = [...event.told.keys()].map((mark) => {
    const [was, is] = [before.get(mark) ?? null, book.costs.get(mark) ?? null];
    const lying = book.lying.get(mark) ?? ZERO;
    const here = was === null || is === null ? null : is.minus(was).times(lying);
    return { mark, before: was, after: is, lying, here, gone: ZERO };
  });
  const lost = [...worked].map(([mark, amount]) => {
    const cost = book.costs.get(mark) ?? null;
    return { mark, before: cost, after: cost, lying: ZERO, here: amount.negated(), gone: ZERO };
  });
  return [...valued, ...lost];
}
