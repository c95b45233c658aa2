import { expiryOf, stateOf } from '../kernel/db/what-counts.ts';
import type { MarkKind, MarkState } from '../../core/catalogue/marking.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Db } from '../kernel/db/client.ts';
import { holding } from '../kernel/db/like.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

export interface OnHandRow {
  id: number;
  product: string;
  kind: MarkKind;
  number: string;
  lot: string | null;
  quantity: string;
  expires: string | null;
  since: string;
  state: MarkState;
  place: string;
  /** It lies in quarantine: free for nothing. */
  quarantine: boolean;
  site: string;
}

/**
 * What is on hand, mark by mark and place by place, soonest expiry first.
 * @param products only these codes, or all
 * @param text only where product, number, lot or place holds it
 */
export async function readOnHand(
  db: Db,
  { products, text, limit = 5000 }: { products?: readonly string[]; text?: string; limit?: number }
): Promise<OnHandRow[]> {
  const pattern = text ? holding(text) : null;
  const rows = await db<OnHandRow[]>`
    SELECT m.id, p.code AS product, m.kind, coalesce(m.number, p.code) AS number, l.number AS lot,
      s.quantity, ${expiryOf(db)} AS expires, e.happened_at::date AS since,
      ${stateOf(db)} AS state, c.code AS place,
      c.kind = 'quarantine' AS quarantine, t.code AS site
    FROM stock s
      JOIN mark m ON m.id = s.mark_id
      JOIN product p ON p.id = m.product_id
      JOIN event e ON e.id = m.birth_event
      JOIN place c ON c.id = s.place_id
      JOIN site t ON t.id = c.site_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE s.quantity > 0 ${products ? db`AND upper(p.code) = ANY(${products.map(numberKey)})` : db``} ${
      pattern
        ? db`
      AND (
        p.code ILIKE ${pattern}
          OR p.name ILIKE ${pattern}
          OR m.number ILIKE ${pattern}
          OR l.number ILIKE ${pattern}
          OR c.code ILIKE ${pattern}
          OR m.supplier_number ILIKE ${pattern}
      )
    `
        : db``
    }
    ORDER BY p.code, ${expiryOf(db)} NULLS LAST, l.number NULLS FIRST, m.number
    LIMIT ${limit}
  `;
  return rows.map((row) => ({ ...row, quantity: trimZeros(row.quantity) }));
}

/** The same, by product, for the margin of a working sheet. */
export async function readAvailable(
  db: Db,
  products: readonly string[]
): Promise<Record<string, OnHandRow[]>> {
  const groups: Record<string, OnHandRow[]> = Object.fromEntries(
    products.map((code) => [code, []])
  );
  for (const row of await readOnHand(db, { products })) (groups[row.product] ??= []).push(row);
  return groups;
}
