import {
  costAfter,
  marksAsked,
  type Cost,
  type CostEvent
} from '../../../core/stock/costs/cost-event.ts';
import { replay } from '../../../core/stock/costs/replay.ts';
import type { Tx } from '../../kernel/db/client.ts';
import { idList } from '../../kernel/db/id-list.ts';
import { readCostEvents } from './read-cost-events.ts';
import { readCostsBefore, readLyingBefore, readStanding } from './read-costs.ts';
import { writeCosts, writeEntries } from './write-costs.ts';

/** Where a correction begins: the marks it concerns, and the event that is told otherwise. */
interface Beginning {
  marks: number[];
  from: number;
}

/**
 * An event that tells an earlier one otherwise, by taking it back or by another cost: what its goods
 * cost flows anew through all that was made of them.
 */
export async function correctCosts(tx: Tx, event: number): Promise<void> {
  const beginning = await readBeginning(tx, event);
  if (!beginning) return;
  const marks = await readReached(tx, beginning, event);
  const { from } = beginning;
  const ids = await readTouching(tx, marks, from, event);
  const scope = { events: ids, marks, toldUntil: event };
  const events = await readCostEvents(tx, scope);
  const [lying, costs, stood, outside] = await Promise.all([
    readLyingBefore(tx, marks, from, event),
    readCostsBefore(tx, marks, from),
    readStanding(tx, marks, from),
    readOutside(tx, events, new Set(marks), from)
  ]);
  const told = replay({ marks: new Set(marks), events, lying, costs, stood, outside });
  await writeCosts(
    tx,
    told.rows.map((row) => ({ ...row, toldBy: event }))
  );
  await writeEntries(tx, event, told.entries);
}

/** Null where an event corrects no cost of what came in. */
async function readBeginning(tx: Tx, event: number): Promise<Beginning | null> {
  const rows = await tx<{ mark: number; from: number }[]>`
    SELECT v.mark_id AS mark, e.reverses_id AS from
    FROM event e
      JOIN movement v ON v.event_id = e.id
    WHERE e.id = ${event} AND e.kind = 'reversal'
    GROUP BY v.mark_id, e.reverses_id
    HAVING sum(v.quantity) <> 0
    UNION
    SELECT c.mark_id, c.of_event
    FROM cost_told c
    WHERE c.event_id = ${event} AND c.of_event IS NOT NULL
  `;
  if (rows.length === 0) return null;
  return {
    marks: [...new Set(rows.map((row) => row.mark))],
    from: Math.min(...rows.map((row) => row.from))
  };
}

/** The marks themselves and all that was made of them since, or that they were fitted into. */
async function readReached(tx: Tx, { marks, from }: Beginning, until: number): Promise<number[]> {
  const rows = await tx<{ mark: number }[]>`
    WITH RECURSIVE reached (mark) AS (
      SELECT unnest(${idList(marks)}::text::bigint[])
      UNION
      SELECT next.mark
      FROM reached r
        CROSS JOIN LATERAL (
          SELECT o.mark_id AS mark
          FROM transformation_input i
            JOIN transformation t ON t.id = i.transformation_id
            JOIN transformation_output o ON o.transformation_id = t.id
          WHERE i.mark_id = r.mark AND t.event_id BETWEEN ${from} AND ${until}
          UNION ALL
          SELECT f.host_id
          FROM fitting f
          WHERE f.component_id = r.mark AND f.from_event BETWEEN ${from} AND ${until}
          UNION ALL
          SELECT o.host_id
          FROM removal o
          WHERE o.component_id = r.mark AND o.event_id BETWEEN ${from} AND ${until}
        ) next
    )
    SELECT mark FROM reached ORDER BY mark
  `;
  return rows.map((row) => row.mark);
}

/** Events that moved, made, fitted or valued one of the marks, the earliest first. */
async function readTouching(
  tx: Tx,
  marks: readonly number[],
  from: number,
  until: number
): Promise<number[]> {
  const list: ReturnType<Tx> = tx`${idList(marks)}::text::bigint[]`;
  const rows = await tx<{ event: number }[]>`
    SELECT DISTINCT event
    FROM (
      SELECT event_id AS event FROM movement WHERE mark_id = ANY(${list})
      UNION ALL
      SELECT t.event_id
      FROM transformation_output o
        JOIN transformation t ON t.id = o.transformation_id
      WHERE o.mark_id = ANY(${list})
      UNION ALL
      SELECT from_event
      FROM fitting
      WHERE component_id = ANY(${list}) OR host_id = ANY(${list})
      UNION ALL
      SELECT event_id
      FROM removal
      WHERE component_id = ANY(${list}) OR host_id = ANY(${list})
      UNION ALL
      SELECT event_id FROM cost_told WHERE mark_id = ANY(${list})
    ) touching
    WHERE event BETWEEN ${from} AND ${until}
    ORDER BY event
  `;
  return rows.map((row) => row.event);
}

/** What marks that are not passed again cost before each event that names them. */
async function readOutside(
  tx: Tx,
  events: readonly CostEvent[],
  inside: ReadonlySet<number>,
  from: number
): Promise<(mark: number, event: number) => Cost> {
  const marks = [...new Set(events.flatMap(marksAsked).filter((mark) => !inside.has(mark)))];
  const [before, standing] = await Promise.all([
    readCostsBefore(tx, marks, from),
    readStanding(tx, marks, from)
  ]);
  return (mark, event) => costAfter(standing.get(mark), event - 1, before.get(mark) ?? null);
}
