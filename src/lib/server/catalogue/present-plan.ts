import type { Db } from '../kernel/db/client.ts';

/**
 * The body of the present version of a product's (alias p) marking plan, as a value of a statement;
 * null where it names none.
 */
export const presentPlan = (db: Db) =>
  db`
    (
      SELECT v.body
      FROM marking_plan_version v
      WHERE v.plan_id = p.plan_id
      ORDER BY v.version DESC
      LIMIT 1
    )
  `;
