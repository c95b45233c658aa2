import type { Db } from '../kernel/db/client.ts';
import { MOST_LISTED, type LooseRow } from './loose-row.ts';
import { somethingWentIn } from './went-in.ts';

/** What was shipped, and nobody knows where it came from. */
export const readOriginUnknown = (db: Db): Promise<LooseRow[]> => db<LooseRow[]>`
      SELECT m.id, m.kind, m.number, p.code AS product, p.unit, min(e.happened_at)::date AS since,
        -sum(v.quantity) AS amount, count(*) OVER ()::int AS total
      FROM event e
        JOIN movement v ON v.event_id = e.id
        JOIN mark m ON m.id = v.mark_id
        JOIN product p ON p.id = m.product_id
      WHERE e.kind = 'ship'
        AND m.kind <> 'bulk'
        AND NOT is_taken_back(e.id, m.id)
        AND NOT EXISTS (
          SELECT
          FROM movement r
            JOIN event f ON f.id = r.event_id
          WHERE r.mark_id = m.id AND f.kind IN ('receive', 'opening') AND NOT is_taken_back(f.id, m.id)
        )
        AND NOT ${somethingWentIn(db)}
      GROUP BY m.id, p.code, p.unit
      ORDER BY 6
      LIMIT ${MOST_LISTED}
    `;
