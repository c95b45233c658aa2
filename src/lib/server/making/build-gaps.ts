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
 * Builds with missing components, oldest first; what was taken back is no gap, nor what was put in
 * since, if it is enough. The first two hundred, and how many there are.
 */
export async function readBuildGaps(db: Db): Promise<Listed<BuildGap>> {
  const rows = await db<(BuildGap & { total: number })[]>`
    SELECT g.mark_id AS mark, m.kind, m.number, p.code AS product, c.code AS component, g.wanted,
      count(*) OVER ()::int AS total,
      g.used + i.quantity AS used, e.document, e.id AS event, e.happened_at::date AS since,
      EXISTS (SELECT FROM stock s WHERE s.mark_id = m.id AND s.quantity > 0) AS "onHand"
    FROM build_gap g
      JOIN mark m ON m.id = g.mark_id
      JOIN product p ON p.id = m.product_id
      JOIN product c ON c.id = g.component_id
      JOIN event e ON e.id = g.event_id
      CROSS JOIN LATERAL (${putInSince(db)}) i
    WHERE ${stands(db, db`g.transformation_id`)}
      AND g.used + i.quantity < g.wanted
    ORDER BY e.happened_at, p.code, m.number, c.code
    LIMIT 200
  `;
  return mapListed(listed(rows), (row) => ({
    ...row,
    wanted: trimZeros(row.wanted),
    used: trimZeros(row.used)
  }));
}

/**
 * How much of the missing part (g), or of what may stand for it, was put into the unit since: what it
 * was made of anew, and what was fitted and did not come out again (a fitting taken back is a row
 * of its own). A lot is a mixture, which is taken back and booked anew.
 */
const putInSince = (db: Db) => db`
  SELECT coalesce(sum(x.quantity), 0) AS quantity
  FROM (
    SELECT k.product_id,
      i.quantity * o.quantity / (
        SELECT sum(a.quantity)
        FROM transformation_output a
        WHERE a.transformation_id = o.transformation_id
      ) AS quantity
    FROM transformation_output o
      JOIN transformation_input i USING (transformation_id)
      JOIN mark k ON k.id = i.mark_id
    WHERE o.mark_id = g.mark_id
      AND o.transformation_id > g.transformation_id
      AND m.kind = 'serial'
      AND ${stands(db, db`o.transformation_id`)}
    UNION ALL
    SELECT k.product_id, f.quantity
    FROM fitting f
      JOIN mark k ON k.id = f.component_id
    WHERE f.host_id = g.mark_id
      AND f.from_event > g.event_id
    UNION ALL
    SELECT k.product_id, -r.quantity
    FROM removal r
      JOIN mark k ON k.id = r.component_id
    WHERE r.host_id = g.mark_id
      AND r.event_id > g.event_id
  ) x
  WHERE x.product_id = g.component_id
    OR x.product_id IN (
      SELECT unnest(l.alternates)
      FROM bill_part l
        JOIN bill b ON b.id = l.bill_id
      WHERE b.product_id = m.product_id AND l.component_id = g.component_id
    )
`;
