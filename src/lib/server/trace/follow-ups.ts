import {
  followDates,
  type DatedMark,
  type FollowedDate
} from '../../core/catalogue/follow-dates.ts';
import { effectivePlan, type MarkingPlan } from '../../core/catalogue/plan.ts';
import type { MarkKind, Marking } from '../../core/catalogue/marking.ts';
import { presentPlan } from '../catalogue/present-plan.ts';
import type { Db } from '../kernel/db/client.ts';
import { reach } from './read-graph.ts';

export interface FollowUp extends FollowedDate {
  product: string;
  kind: MarkKind;
  number: string;
  lot: string | null;
}

/**
 * The dates downstream of a mark that were computed from one that is to be amended, and what they
 * would be.
 */
export async function readFollowUps(
  db: Db,
  id: number,
  amended: { made?: string | null; expires?: string | null }
): Promise<FollowUp[]> {
  const { marks } = await reach(db, id, 'downstream');
  const rows = await db<
    (Omit<DatedMark, 'rule' | 'inputs'> & {
      shelf: number | null;
      warranty: number | null;
      marking: Marking;
      plan: MarkingPlan | null;
      product: string;
      kind: MarkKind;
      number: string | null;
      lot: string | null;
      inputs: number[] | null;
    })[]
  >`
    WITH reached AS (SELECT unnest(${marks}::bigint[]) AS id),
      inputs AS (
        SELECT o.mark_id, array_agg(DISTINCT i.mark_id) AS inputs
        FROM transformation_output o
          JOIN transformation_input i USING (transformation_id)
        WHERE o.mark_id IN (SELECT id FROM reached)
        GROUP BY o.mark_id
      )
    SELECT m.id, m.lot_id AS "lotId", m.made_on AS made, m.expires_on AS expires,
      p.shelf_life_days AS shelf, p.warranty_months AS warranty, p.marking,
      e.happened_at::date AS "bornOn", p.code AS product, m.kind, m.number, l.number AS lot,
      ${presentPlan(db)} AS plan, n.inputs
    FROM mark m
      JOIN product p ON p.id = m.product_id
      JOIN event e ON e.id = m.birth_event
      LEFT JOIN mark l ON l.id = m.lot_id
      LEFT JOIN inputs n ON n.mark_id = m.id
    WHERE m.id = ANY(ARRAY(SELECT id FROM reached UNION SELECT unnest(inputs) FROM inputs))
  `;
  const dated = rows.map((row): DatedMark => {
    const plan = effectivePlan(row.plan, row.marking, {
      shelfLifeDays: row.shelf,
      warrantyMonths: row.warranty
    });
    return {
      id: row.id,
      lotId: row.lotId,
      made: row.made,
      expires: row.expires,
      rule: plan.expires,
      shelfLifeDays: plan.shelfLifeDays,
      bornOn: row.bornOn,
      inputs: (row.inputs ?? []).map(Number)
    };
  });
  const byId = new Map(rows.map((row) => [row.id, row]));
  return followDates(dated, { id, ...amended }).flatMap((one) => {
    const row = byId.get(one.id)!;
    return row.number === null
      ? []
      : [{ ...one, product: row.product, kind: row.kind, number: row.number, lot: row.lot }];
  });
}
