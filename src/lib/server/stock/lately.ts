import type { Db } from '../kernel/db/client.ts';

/** A booking of the store, for somebody who wants to see what was done last. */
export interface LatelyDone {
  event: number;
  kind: string;
  document: string;
  at: string;
  by: string;
  marks: number;
  /** The first of the places it came to. */
  places: string[];
}

/** What was moved last, the latest first: the last ten. */
export async function readLatelyMoved(db: Db): Promise<LatelyDone[]> {
  return db<LatelyDone[]>`
    SELECT e.id AS event, e.kind, e.document, to_json(e.happened_at) #>> '{}' AS at, n.name AS by,
      v.marks, v.places
    FROM (
      SELECT *
      FROM event
      WHERE kind IN ('move', 'put away')
      ORDER BY happened_at DESC, id DESC
      LIMIT 10
    ) e
      JOIN person n ON n.id = e.booked_by
      CROSS JOIN LATERAL (
        SELECT count(DISTINCT m.mark_id)::int AS marks,
          (array_agg(DISTINCT c.code::text))[1:3] AS places
        FROM movement m
          JOIN place c ON c.id = m.place_id
        WHERE m.event_id = e.id AND m.quantity > 0
      ) v
    ORDER BY e.happened_at DESC, e.id DESC
  `;
}
