import type { MarkKind, MarkState } from '../../core/catalogue/marking.ts';
import type { Db } from '../kernel/db/client.ts';

/** The marks born last, a few of each product, for somebody who wants to begin somewhere. */
export async function recentMarks(
  db: Db
): Promise<
  { id: number; kind: MarkKind; number: string; product: string; name: string; state: MarkState }[]
> {
  return db`
    SELECT x.id, x.kind, x.number, p.code AS product, p.name, x.state
    FROM product p
      JOIN LATERAL (
        SELECT m.*
        FROM mark m
        WHERE m.product_id = p.id
          AND m.number IS NOT NULL
          AND m.kind = (CASE WHEN p.marking = 'lot' THEN 'lot' ELSE 'serial' END)
        ORDER BY m.id DESC
        LIMIT 2
      ) x ON true
    ORDER BY p.made DESC, p.code, x.id DESC
    LIMIT 40
  `;
}
