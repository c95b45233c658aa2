import type { Db } from '../kernel/db/client.ts';
import { Problem } from '../kernel/problem.ts';

export interface RecordQuery {
  /** Days `YYYY-MM-DD`, both included. */
  from?: string;
  to?: string;
  /** Only what names this lot or serial. */
  number?: string;
}

/** Most events of one file. */
const MOST_EVENTS = 50_000;

/**
 * Ids of the events of a period, or of a lot or serial with all that is within it, in time order.
 * Nothing is left out: where it is more than one file takes, the file is refused.
 * @param kinds only events of these kinds; all where nothing is said
 * @throws Problem 422 saying how many there are
 */
export async function askedEvents(
  db: Db,
  { from = '-infinity', to = 'infinity', number }: RecordQuery,
  kinds: readonly string[] | null = null
): Promise<number[]> {
  const rows = await db<{ id: number; total: number }[]>`
    SELECT e.id, count(*) OVER ()::int AS total
    FROM event e
    WHERE e.happened_at >= ${from}::date
      AND e.happened_at < ${to}::date + CASE WHEN ${to} = 'infinity' THEN 0 ELSE 1 END
      ${kinds === null ? db`` : db`AND e.kind = ANY(${kinds as string[]})`}
      ${number === undefined ? db`` : db`AND ${names(db, number)}`}
    ORDER BY e.happened_at, e.id
    LIMIT ${MOST_EVENTS}
  `;
  const total = rows[0]?.total ?? 0;
  if (total > MOST_EVENTS)
    throw new Problem(422, 'That is more than one file takes', [
      {
        code: 'request.malformed',
        path: 'from',
        message: `${total} events are asked for, and ${MOST_EVENTS} go into one file. Ask for a shorter period, and for the next one after it.`
      }
    ]);
  return rows.map((row) => row.id);
}

/** Whether an event (e) moves, changes or takes apart a lot or serial, or something within the lot. */
const names = (db: Db, number: string) => db`
  EXISTS (
    SELECT
    FROM mark m
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE (m.number_key = upper(${number}) OR l.number_key = upper(${number}))
      AND (
        EXISTS (SELECT FROM movement v WHERE v.event_id = e.id AND v.mark_id = m.id)
          OR EXISTS (SELECT FROM mark_change c WHERE c.event_id = e.id AND c.mark_id = m.id)
          OR EXISTS (SELECT FROM fitting f WHERE f.from_event = e.id AND m.id IN (f.host_id, f.component_id))
          OR EXISTS (SELECT FROM removal r WHERE r.event_id = e.id AND m.id IN (r.host_id, r.component_id))
      )
  )
`;
