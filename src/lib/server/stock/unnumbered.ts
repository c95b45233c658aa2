import { owesNumbers, type MarkingPlan } from '../../core/catalogue/plan.ts';
import type { Marking } from '../../core/catalogue/marking.ts';
import { presentPlan } from '../catalogue/present-plan.ts';
import type { Db } from '../kernel/db/client.ts';
import { listed, mapListed, type Listed } from '../kernel/db/listed.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

export interface Unnumbered {
  product: string;
  name: string;
  unit: string;
  marking: Marking;
  place: string;
  placeName: string;
  lot: string | null;
  quantity: string;
  since: string;
  mark: number;
}

/** Most rows of it a list shows. */
const LISTED = 200;

/**
 * Stock whose number is still owed: its product is marked more finely than it lies there, and its
 * plan does not leave the number for shipping. Oldest first; the first two hundred, and how many
 * there are. Of one product all of it counts, whatever its plan says.
 */
export async function readUnnumbered(
  db: Db,
  of: { product?: string; mark?: number } = {}
): Promise<Listed<Unnumbered>> {
  const owing = of.product === undefined ? await owingProducts(db) : null;
  const rows = await db<(Unnumbered & { total: number })[]>`
    SELECT p.code AS product, p.name, p.unit, p.marking, c.code AS place,
      t.name || ', ' || c.name AS "placeName", m.number AS lot, s.quantity, m.id AS mark,
      (
        SELECT max(e.happened_at)::date
        FROM movement v
          JOIN event e ON e.id = v.event_id
        WHERE v.mark_id = m.id AND v.quantity > 0
      ) AS since,
      count(*) OVER ()::int AS total
    FROM (
      -- By product, so that each branch has an index: nearly every mark has its number, and Today
      -- asks each time it is opened.
      SELECT m.*
      FROM product q
        JOIN mark m ON m.product_id = q.id AND m.kind = 'bulk'
      WHERE q.marking <> 'none'
      UNION ALL
      SELECT m.*
      FROM product q
        JOIN mark m ON m.product_id = q.id AND m.kind = 'lot'
      WHERE q.marking LIKE 'serial%'
    ) m
      JOIN product p ON p.id = m.product_id
      -- Mark by mark: they are few, which the planner cannot know.
      JOIN LATERAL (SELECT * FROM stock WHERE mark_id = m.id AND quantity > 0 OFFSET 0) s ON true
      JOIN place c ON c.id = s.place_id
      JOIN site t ON t.id = c.site_id
    WHERE c.kind <> 'transit'
      AND (${of.product === undefined} OR upper(p.code) = upper(${of.product ?? ''}))
      AND (${of.mark === undefined} OR m.id = ${of.mark ?? 0})
      AND (${owing === null} OR p.id = ANY(${owing ?? []}))
    ORDER BY since, p.code, c.code
    LIMIT ${LISTED}
  `;
  return mapListed(listed(rows), (row) => ({ ...row, quantity: trimZeros(row.quantity) }));
}

/** Products whose plan asks for numbers before they are shipped. */
async function owingProducts(db: Db): Promise<number[]> {
  const products = await db<{ id: number; plan: MarkingPlan | null }[]>`
    SELECT p.id, ${presentPlan(db)} AS plan
    FROM product p
    WHERE p.marking <> 'none'
  `;
  return products
    .filter(({ plan }) => plan === null || owesNumbers(plan))
    .map((product) => product.id);
}
