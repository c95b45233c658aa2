import { stands } from '../kernel/db/what-counts.ts';
import type { Db } from '../kernel/db/client.ts';
import { listed, mapListed, type Listed } from '../kernel/db/listed.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

/** A part that a build did not name and nobody put in since. */
export interface BuildGap {
  mark: number;
  kind: 'lot' | 'serial' | 'bulk';
  number: string | null;
  product: string;
  component: string;
  wanted: string;
  used: string;
  document: string;
  event: number;
  since: string;
  onHand: boolean;
}

/**
 * Builds with missing components, oldest first; what was taken back or put in since is no gap. The
 * first two hundred, and how many there are.
 */
export async function readBuildGaps(db: Db): Promise<Listed<BuildGap>> {
  const rows = await db<(BuildGap & { total: number })[]>`
    SELECT g.mark_id AS mark, m.kind, m.number, p.code AS product, c.code AS component, g.wanted,
      count(*) OVER ()::int AS total,
      g.used, e.document, e.id AS event, e.happened_at::date AS since,
      EXISTS (SELECT FROM stock s WHERE s.mark_id = m.id AND s.quantity > 0) AS "onHand"
    FROM build_gap g
      JOIN mark m ON m.id = g.mark_id
      JOIN product p ON p.id = m.product_id
      JOIN product c ON c.id = g.component_id
      JOIN event e ON e.id = g.event_id
    WHERE ${stands(db, db`g.transformation_id`)}
      AND NOT EXISTS (
        SELECT
        FROM transformation_output o
          JOIN transformation_input i USING (transformation_id)
          JOIN mark k ON k.id = i.mark_id
        WHERE o.mark_id = g.mark_id
          AND o.transformation_id > g.transformation_id
          AND k.product_id <> m.product_id
          AND ${stands(db, db`o.transformation_id`)}
          AND (
            k.product_id = g.component_id
              OR k.product_id = ANY(
                SELECT unnest(l.alternates)
                FROM bill_part l
                  JOIN trade_order w ON w.bill_id = l.bill_id
                WHERE w.id = e.order_id AND l.component_id = g.component_id
              )
          )
      )
      AND NOT EXISTS (
        SELECT
        FROM fitting f
          JOIN mark k ON k.id = f.component_id AND k.product_id = g.component_id
        WHERE f.host_id = g.mark_id
          AND f.from_event > g.event_id
          AND NOT EXISTS (SELECT FROM event b WHERE b.reverses_id = f.from_event)
      )
    ORDER BY e.happened_at, p.code, m.number, c.code
    LIMIT 200
  `;
  return mapListed(listed(rows), (row) => ({
    ...row,
    wanted: trimZeros(row.wanted),
    used: trimZeros(row.used)
  }));
}
