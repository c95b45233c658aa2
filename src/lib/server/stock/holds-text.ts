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
