import type { Db } from '../kernel/db/client.ts';
import { holding } from '../kernel/db/like.ts';

/**
 * Whether stock holds a text: its product (alias p), number (m), lot (l) or place (c) does, or the
 * supplier’s number.
 */
export function holdsText(db: Db, text: string) {
  const pattern = holding(text);
  return db`
    (
      p.code ILIKE ${pattern}
        OR p.name ILIKE ${pattern}
        OR m.number ILIKE ${pattern}
        OR l.number ILIKE ${pattern}
        OR c.code ILIKE ${pattern}
        OR m.supplier_number ILIKE ${pattern}
    )
  `;
}

/**
 * The rows of stock that hold a text, as `holdsText` says, in brackets: each way by its own index,
 * where the condition alone would read all stock there is.
 */
export function stockHolding(db: Db, text: string) {
  const pattern = holding(text);
  return db`
    (
      WITH named AS MATERIALIZED (
        SELECT id FROM mark WHERE number ILIKE ${pattern}
        UNION
        SELECT id FROM mark WHERE supplier_number ILIKE ${pattern}
      )
      SELECT s.*
      FROM stock s
      WHERE s.mark_id IN (
        SELECT id FROM named
        UNION ALL
        SELECT x.id
        FROM mark x
        WHERE x.lot_id IN (SELECT id FROM mark WHERE kind = 'lot' AND number ILIKE ${pattern})
      )
      UNION
      SELECT s.*
      FROM stock s
      WHERE s.product_id IN (
        SELECT id FROM product WHERE code ILIKE ${pattern} OR name ILIKE ${pattern}
      )
      UNION
      SELECT s.*
      FROM stock s
      WHERE s.place_id IN (SELECT id FROM place WHERE code ILIKE ${pattern})
    )
  `;
}
