import type { Db } from '../kernel/db/client.ts';

/**
 * The lot that the tour follows: the demo's bobbins that went bad. Null where there is no demo, and
 * so no tour.
 */
export async function readTourLot(db: Db): Promise<number | null> {
  const [lot] = await db<{ id: number }[]>`
    SELECT m.id
    FROM mark m
      JOIN product p ON p.id = m.product_id
    WHERE p.code = 'BOB-S' AND m.kind = 'lot' AND m.number_key = 'BOB-2511'
  `;
  return lot?.id ?? null;
}
