import type { Db } from '../kernel/db/client.ts';
import { stands } from '../kernel/db/what-counts.ts';
import { MOST_LISTED, type LooseRow } from './loose-row.ts';
import { somethingWentIn } from './went-in.ts';

/** What was made here with a bill, and nothing is known to have gone in. */
export const readWithoutComponents = (db: Db): Promise<LooseRow[]> => db<LooseRow[]>`
      SELECT m.id, m.kind, m.number, p.code AS product, p.unit, e.happened_at::date AS since,
        '1' AS amount, count(*) OVER ()::int AS total
      FROM product p
        JOIN mark m ON m.product_id = p.id
        JOIN event e ON e.id = m.birth_event AND e.kind = 'build'
      WHERE p.made
        AND EXISTS (SELECT FROM bill b WHERE b.product_id = p.id)
        AND NOT ${somethingWentIn(db)}
        AND EXISTS (
          SELECT
          FROM transformation_output o
          WHERE o.mark_id = m.id
            AND ${stands(db, db`o.transformation_id`)}
        )
      ORDER BY e.happened_at
      LIMIT ${MOST_LISTED}
    `;
