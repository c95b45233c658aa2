import type { Db } from '../kernel/db/client.ts';

/**
 * The mark a product and a number mean: its lot, its serial, or its unmarked stock where neither is
 * named; null where there is none.
 */
export async function findMarkId(
  db: Db,
  product: string,
  lot: string | undefined,
  serial: string | undefined
): Promise<number | null> {
  const [row] = await db<{ id: number }[]>`
    SELECT m.id
    FROM mark m
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE upper(p.code) = upper(${product}) AND ${named(db, lot, serial)}
  `;
  return row?.id ?? null;
}

function named(db: Db, lot: string | undefined, serial: string | undefined) {
  if (serial !== undefined)
    return db`
      m.kind = 'serial'
        AND m.number_key = upper(${serial})
        AND (${lot ?? null}::text IS NULL OR l.number_key = upper(${lot ?? ''}))
    `;
  return lot === undefined
    ? db`m.kind = 'bulk'`
    : db`m.kind = 'lot' AND m.number_key = upper(${lot})`;
}
