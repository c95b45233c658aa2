import type { Db } from '../kernel/db/client.ts';
import { stands } from '../kernel/db/what-counts.ts';
import { MOST_LISTED, type LooseRow } from './loose-row.ts';

/**
 * What builds and the like moved of a mark must be what their transformations say: made less used, of
 * what was not taken back.
 */
export const readOpenBalance = (db: Db): Promise<LooseRow[]> => db<LooseRow[]>`
      WITH moved AS (
        SELECT v.mark_id, sum(v.quantity) AS q
        FROM movement v
          JOIN event e ON e.id = v.event_id
          LEFT JOIN event u ON u.id = e.reverses_id
        WHERE coalesce(u.kind, e.kind) IN ('build', 'repack', 'teardown', 'identify')
        GROUP BY v.mark_id
      ),
        tied AS (
          SELECT mark_id, sum(q) AS q
          FROM (
            SELECT o.mark_id, o.quantity AS q
            FROM transformation_output o
              JOIN transformation t ON t.id = o.transformation_id
            WHERE NOT t.shared
              AND ${stands(db, db`t.id`)}
            UNION ALL
            SELECT i.mark_id, -i.quantity
            FROM transformation_input i
            WHERE ${stands(db, db`i.transformation_id`)}
          ) both_sides
          GROUP BY mark_id
        )
      SELECT m.id, m.kind, m.number, p.code AS product, p.unit, NULL AS since,
        coalesce(a.q, 0) - coalesce(b.q, 0) AS amount, count(*) OVER ()::int AS total
      FROM moved a
        FULL JOIN tied b USING (mark_id)
        JOIN mark m ON m.id = mark_id
        JOIN product p ON p.id = m.product_id
      WHERE coalesce(a.q, 0) <> coalesce(b.q, 0)
      ORDER BY m.id
      LIMIT ${MOST_LISTED}
    `;
