import type { Db } from '../kernel/db/client.ts';
import { MOST_LISTED, type LooseRow } from './loose-row.ts';

/**
 * Marks whose dates cannot be: made after they came (as where their coming was corrected to an
 * earlier day), or past their date before they were made.
 */
export const readImpossibleDates = (db: Db): Promise<LooseRow[]> => db<LooseRow[]>`
  SELECT m.id, m.kind, m.number, p.code AS product, p.unit, m.made_on::text AS since, '1' AS amount,
    count(*) OVER ()::int AS total,
    CASE
      WHEN m.made_on > b.came
        THEN 'made on ' || m.made_on || ', but here since ' || b.came
      ELSE 'expires on ' || m.expires_on || ', before it was made on ' || m.made_on
    END AS says
  FROM mark m
    JOIN product p ON p.id = m.product_id
    CROSS JOIN LATERAL (
      SELECT min(e.happened_at)::date AS came
      FROM movement v
        JOIN event e ON e.id = v.event_id
      WHERE v.mark_id = m.id AND v.quantity > 0 AND NOT is_taken_back(e.id, m.id)
    ) b
  WHERE m.made_on IS NOT NULL
    AND (m.made_on > b.came OR m.expires_on < m.made_on)
  ORDER BY m.made_on, m.id
  LIMIT ${MOST_LISTED}
`;
