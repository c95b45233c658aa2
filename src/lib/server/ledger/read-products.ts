import { effectivePlan, type MarkingPlan } from '../../core/catalogue/plan.ts';
import type { Marking } from '../../core/catalogue/marking.ts';
import { codeKey, type KnownProduct } from '../../core/ledger/snapshot.ts';
import { quantity } from '../../core/quantity/quantity.ts';
import type { Tx } from '../kernel/db/client.ts';
import { distinctCodes } from './named-codes.ts';

export interface ProductRow {
  id: number;
  code: string;
  name: string;
  unit: string;
  decimals: number;
  marking: Marking;
  shelf_life_days: number | null;
  warranty_months: number | null;
  plan_version: number | null;
  plan: MarkingPlan | null;
  units: { name: string; holds: string }[] | null;
  net_weight_kg: string | null;
}

/** Products with the plans they are marked by, by folded code. */
export const readProducts = async (
  tx: Tx,
  codes: readonly string[]
): Promise<Map<string, KnownProduct>> =>
  asProducts(await tx<ProductRow[]>`${productsNamed(tx, codes)}`);

/** The statement that reads them, to be sent with others. */
export const productsNamed = (tx: Tx, codes: readonly string[]) => tx`
  SELECT p.id, p.code, p.name, p.unit, p.decimals, p.marking, p.shelf_life_days, p.warranty_months,
    p.net_weight_kg::text, v.id AS plan_version, v.body AS plan,
    (
      SELECT json_agg(json_build_object('name', u.name, 'holds', u.holds::text))
      FROM product_unit u
      WHERE u.product_id = p.id
    ) AS units
  FROM product p
    LEFT JOIN LATERAL (
      SELECT id, body
      FROM marking_plan_version
      WHERE plan_id = p.plan_id
      ORDER BY version DESC
      LIMIT 1
    ) v ON true
  WHERE upper(p.code) = ANY(${distinctCodes(codes)})
`;

export function asProducts(rows: readonly ProductRow[]): Map<string, KnownProduct> {
  return new Map(
    rows.map((row) => [
      codeKey(row.code),
      {
        id: row.id,
        code: row.code,
        name: row.name,
        unit: row.unit,
        decimals: row.decimals,
        marking: row.marking,
        planVersion: row.plan_version,
        plan: effectivePlan(row.plan, row.marking, {
          shelfLifeDays: row.shelf_life_days,
          warrantyMonths: row.warranty_months
        }),
        netWeightKg: row.net_weight_kg === null ? null : quantity(row.net_weight_kg),
        units: new Map(
          (row.units ?? []).map((unit) => [
            codeKey(unit.name),
            { name: unit.name, holds: quantity(unit.holds) }
          ])
        )
      }
    ])
  );
}
