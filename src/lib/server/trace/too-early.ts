import type { Db } from '../kernel/db/client.ts';
import { MOST_LISTED, type LooseRow } from './loose-row.ts';

/**
 * Bookings that by their date took what was not here yet, and somebody went on in spite of it:
 * those of which the mark was not taken back, the oldest first. `amount` is the event.
 */
export const readTooEarly = (db: Db): Promise<LooseRow[]> => db<LooseRow[]>`
  SELECT m.id, m.kind, m.number, m.product, m.unit, e.happened_at::date AS since,
    e.id::text AS amount, r.message AS says, count(*) OVER ()::int AS total
  FROM booking_remark r
    JOIN event e ON e.id = r.event_id
    CROSS JOIN LATERAL (
      SELECT m.id, m.kind, m.number, p.code AS product, p.unit
      FROM movement v
        JOIN mark m ON m.id = v.mark_id
        JOIN product p ON p.id = m.product_id
      WHERE v.event_id = e.id AND r.number IN (m.number, p.code)
      LIMIT 1
    ) m
  WHERE r.code = 'time.order' AND NOT is_taken_back(e.id, m.id)
  ORDER BY e.happened_at, r.id
  LIMIT ${MOST_LISTED}
`;
