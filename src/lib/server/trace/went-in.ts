import type { Db } from '../kernel/db/client.ts';
import { stands } from '../kernel/db/what-counts.ts';

/** Whether a mark (alias m) was made of something, as far as anybody said, by what stands. */
export const somethingWentIn = (db: Db) => db`
  EXISTS (
    SELECT
    FROM transformation_output o
      JOIN transformation_input i USING (transformation_id)
    WHERE o.mark_id = m.id AND ${stands(db, db`o.transformation_id`)}
  )
`;
