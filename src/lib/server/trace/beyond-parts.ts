import type { Db } from '../kernel/db/client.ts';
import { stands } from '../kernel/db/what-counts.ts';
import { MOST_LISTED, type LooseRow } from './loose-row.ts';

/**
 * Builds that made more than their parts can carry: by net weight, where that of all goods on both
 * sides is known, more than a hundredth more came out than went in. What a build is known to lack
 * is told with its part, and not here. `amount` is the event.
 */
export const readBeyondParts = (db: Db): Promise<LooseRow[]> => db<LooseRow[]>`
  WITH moved AS (
    SELECT t.event_id, i.mark_id, -i.quantity AS quantity
    FROM transformation_input i
      JOIN transformation t ON t.id = i.transformation_id
    WHERE ${stands(db, db`t.id`)}
    UNION ALL
    SELECT t.event_id, o.mark_id, o.quantity
    FROM transformation_output o
      JOIN transformation t ON t.id = o.transformation_id
    WHERE NOT t.shared AND ${stands(db, db`t.id`)}
  ),
    weighed AS (
      SELECT v.event_id,
        sum(v.quantity * w.kg) FILTER (WHERE v.quantity > 0) AS made,
        -sum(v.quantity * w.kg) FILTER (WHERE v.quantity < 0) AS used,
        bool_and(w.kg IS NOT NULL) AS known,
        min(v.mark_id) FILTER (WHERE v.quantity > 0) AS mark_id
      FROM moved v
        JOIN mark m ON m.id = v.mark_id
        JOIN product p ON p.id = m.product_id
        CROSS JOIN LATERAL (
          SELECT CASE WHEN p.unit = 'kg' THEN 1 ELSE p.net_weight_kg END AS kg
        ) w
      GROUP BY v.event_id
    )
  SELECT m.id, m.kind, m.number, p.code AS product, p.unit, e.happened_at::date AS since,
    e.id::text AS amount, count(*) OVER ()::int AS total,
    e.document || ': ' || trim_scale(round(x.made, 3)) || ' kg made of '
      || trim_scale(round(x.used, 3)) || ' kg of parts' AS says
  FROM weighed x
    JOIN event e ON e.id = x.event_id AND e.kind = 'build'
    JOIN mark m ON m.id = x.mark_id
    JOIN product p ON p.id = m.product_id
  WHERE x.known
    AND x.made > x.used * 1.01
    AND NOT EXISTS (SELECT FROM build_gap g WHERE g.event_id = x.event_id)
  ORDER BY e.happened_at, e.id
  LIMIT ${MOST_LISTED}
`;
