import { owesNumbers, type MarkingPlan } from '../../core/catalogue/plan.ts';
import type { Marking } from '../../core/catalogue/marking.ts';
import { presentPlan } from '../catalogue/present-plan.ts';
import type { Db } from '../kernel/db/client.ts';
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

/**
 * Stock whose number is still owed: its product is marked more finely than it lies there, and its
 * plan does not leave the number for shipping. Oldest first.
 */
export async function readUnnumbered(db: Db, product?: string): Promise<Unnumbered[]> {
  const rows = await db<(Unnumbered & { plan: MarkingPlan | null })[]>`
    SELECT p.code AS product, p.name, p.unit, p.marking, c.code AS place, t.name || ', ' || c.name AS "placeName", m.number AS lot, s.quantity, m.id AS mark,
      (SELECT max(e.happened_at)::date FROM movement v JOIN event e ON e.id = v.event_id WHERE v.mark_id = m.id AND v.quantity > 0) AS since,
      ${presentPlan(db)} AS plan
    FROM (
      -- By product, so that each branch has an index: nearly every mark has its number, and Today asks each time it is opened.
      SELECT m.* FROM product q JOIN mark m ON m.product_id = q.id AND m.kind = 'bulk' WHERE q.marking <> 'none'
      UNION ALL
      SELECT m.* FROM product q JOIN mark m ON m.product_id = q.id AND m.kind = 'lot' WHERE q.marking LIKE 'serial%'
    ) m JOIN product p ON p.id = m.product_id JOIN stock s ON s.mark_id = m.id JOIN place c ON c.id = s.place_id JOIN site t ON t.id = c.site_id
    WHERE s.quantity > 0 ${product === undefined ? db`` : db`AND upper(p.code) = upper(${product})`}
    ORDER BY since, p.code, c.code LIMIT 200`;
  return rows
    .filter((row) => product !== undefined || row.plan === null || owesNumbers(row.plan))
    .map(({ plan: _, ...row }) => ({ ...row, quantity: trimZeros(row.quantity) }));
}
