import type { Db } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

export interface TimelineRow {
  event: number;
  kind: string;
  document: string;
  partner: string | null;
  at: string;
  who: string;
  reason: string | null;
  places: { code: string; name: string; quantity: string }[];
  changes: { field: string; from: string | null; to: string | null }[];
}

/**
 * The mark and the serials within it, as an array for `= …`: an OR or an IN over both would read
 * whole tables.
 */
export const ownAndMembers = (db: Db, id: number) =>
  db`ANY(ARRAY(SELECT ${id}::bigint UNION ALL SELECT x.id FROM mark x WHERE x.lot_id = ${id}))`;

/** What changed about a mark: its fields, its steps on the floor, and its parts. */
const changesOf = (db: Db, id: number) => db`
        SELECT event_id, coalesce(fact, replace(field, '_', ' ')) AS field, old_value, new_value
        FROM mark_change
        WHERE mark_id = ${id}
        UNION ALL
        SELECT s.event_id, t.name, NULL, s.state
        FROM mark m
          JOIN planned_output n ON n.product_id = m.product_id AND n.number_key = m.number_key
          JOIN station_step s ON s.unit_id = n.id
          JOIN station t ON t.id = s.station_id
        WHERE m.id = ${id} AND m.kind <> 'bulk'
        UNION ALL
        SELECT x.event, x.field, NULL,
          concat_ws(' ', p.code, coalesce(m.number, x.quantity::float8::text), 'at ' || x.position)
        FROM (
          SELECT from_event AS event, 'put in' AS field, component_id AS part, quantity, position
          FROM fitting
          WHERE host_id = ${id}
          UNION ALL
          SELECT event_id, 'taken out', component_id, quantity, position
          FROM removal
          WHERE host_id = ${id}
        ) x
          JOIN mark m ON m.id = x.part
          JOIN product p ON p.id = m.product_id
`;

/** Every transaction of a mark (and of the serials within it), latest first. */
export async function readTimeline(db: Db, id: number): Promise<TimelineRow[]> {
  const rows = await db<
    (Omit<TimelineRow, 'at' | 'places' | 'changes'> & {
      at: Date;
      places: TimelineRow['places'] | null;
      changes: TimelineRow['changes'] | null;
    })[]
  >`
    WITH moved AS (
      SELECT v.event_id, c.code, c.name, sum(v.quantity) AS quantity
      FROM movement v
        JOIN place c ON c.id = v.place_id
      WHERE v.mark_id = ${ownAndMembers(db, id)}
      GROUP BY v.event_id, c.code, c.name
    ),
      changed AS (
        ${changesOf(db, id)}
      )
    SELECT e.id AS event, e.kind, e.document, t.name AS partner, e.happened_at AS at, w.name AS who,
      e.reason,
      (
        SELECT json_agg(
          json_build_object('code', code, 'name', name, 'quantity', quantity::text) ORDER BY code
        )
        FROM moved
        WHERE event_id = e.id
      ) AS places,
      (
        SELECT json_agg(json_build_object('field', field, 'from', old_value, 'to', new_value))
        FROM changed
        WHERE event_id = e.id
      ) AS changes
    FROM event e
      JOIN person w ON w.id = e.booked_by
      LEFT JOIN partner t ON t.id = e.partner_id
    WHERE e.id IN (SELECT event_id FROM moved UNION SELECT event_id FROM changed)
    ORDER BY e.happened_at DESC, e.id DESC
    LIMIT 500
  `;
  return rows.map((row) => ({
    ...row,
    at: row.at.toISOString(),
    places: (row.places ?? []).map((place) => ({ ...place, quantity: trimZeros(place.quantity) })),
    changes: row.changes ?? []
  }));
}
