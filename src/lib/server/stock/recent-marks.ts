import type { MarkKind, MarkState } from '../../core/catalogue/marking.ts';
import type { Db } from '../kernel/db/client.ts';

/** Of how many marks that were born last a few are shown. */
const LATELY = 2000;

/**
 * The marks born last, at most two of each product, made ones first, for somebody who wants to
 * begin somewhere.
 */
export async function recentMarks(
  db: Db
): Promise<
  { id: number; kind: MarkKind; number: string; product: string; name: string; state: MarkState }[]
> {
  return db`
    SELECT x.id, x.kind, x.number, p.code AS product, p.name, x.state
    FROM (
      SELECT b.*, row_number() OVER (PARTITION BY b.product_id ORDER BY b.id DESC) AS at
      FROM (SELECT * FROM mark ORDER BY id DESC LIMIT ${LATELY}) b
      WHERE b.number IS NOT NULL
    ) x
      JOIN product p ON p.id = x.product_id
        AND x.kind = (CASE WHEN p.marking = 'lot' THEN 'lot' ELSE 'serial' END)
    WHERE x.at <= 2
    ORDER BY p.made DESC, p.code, x.id DESC
    LIMIT 40
  `;
}
