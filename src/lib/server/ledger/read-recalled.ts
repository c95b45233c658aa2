import type { Db } from '../kernel/db/client.ts';

/** Which of these marks an open recall suspects, or found with customers; drills do not count. */
export async function readRecalled(tx: Db, ids: readonly number[]): Promise<Set<number>> {
  if (ids.length === 0) return new Set();
  const asked = [...ids];
  const rows = await tx<{ mark: number }[]>`
    WITH open_case AS (
      SELECT id
      FROM recall_case
      WHERE NOT mock AND closed_at IS NULL
    )
    SELECT s.mark_id AS mark
    FROM open_case c
      JOIN recall_suspect s ON s.case_id = c.id AND s.mark_id = ANY(${asked})
    UNION
    SELECT s.mark_id
    FROM open_case c
      JOIN recall_scope_customer s ON s.case_id = c.id AND s.mark_id = ANY(${asked})
  `;
  return new Set(rows.map((row) => row.mark));
}
