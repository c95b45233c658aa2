import type { Db } from '../kernel/db/client.ts';
import { MOST_LISTED, type LooseRow } from './loose-row.ts';

/** Lots received more than half a year ago and not touched since. @param day `YYYY-MM-DD`, today */
export const readNeverUsed = (db: Db, day: string): Promise<LooseRow[]> => db<LooseRow[]>`
      SELECT m.id, m.kind, m.number, p.code AS product, p.unit, e.happened_at::date AS since,
        (SELECT sum(s.quantity) FROM stock s WHERE s.mark_id = m.id) AS amount,
        count(*) OVER ()::int AS total
      FROM mark m
        JOIN event e ON e.id = m.birth_event AND e.kind IN ('receive', 'opening')
        JOIN product p ON p.id = m.product_id
      WHERE m.kind = 'lot'
        AND e.happened_at < ${day}::date - 183
        AND EXISTS (SELECT FROM stock s WHERE s.mark_id = m.id AND s.quantity > 0)
        AND NOT EXISTS (
          SELECT
          FROM movement v
            JOIN event f ON f.id = v.event_id
          WHERE v.mark_id = m.id AND f.kind NOT IN ('receive', 'opening', 'put away', 'move', 'count')
        )
      ORDER BY e.happened_at
      LIMIT ${MOST_LISTED}
    `;
