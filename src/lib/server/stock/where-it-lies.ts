import type { Db } from '../kernel/db/client.ts';

/** The code of the place most of a mark lies at; null where none is on hand. */
export async function whereItLies(db: Db, markId: number): Promise<string | null> {
  const [place] = await db<{ code: string }[]>`
    SELECT c.code
    FROM stock s
      JOIN place c ON c.id = s.place_id
    WHERE s.mark_id = ${markId} AND s.quantity > 0
    ORDER BY s.quantity DESC
    LIMIT 1
  `;
  return place?.code ?? null;
}
