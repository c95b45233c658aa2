import { costNow, expiryOf, stateOf } from '../kernel/db/what-counts.ts';
import type { Marking } from '../../core/catalogue/marking.ts';
import type { Db, Sql } from '../kernel/db/client.ts';
import { carryCosts } from '../stock/costs/carry-costs.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

/**
 * A lot or serial to be repacked, at one of the places it lies, with its weight and what one of it
 * costs, for whoever may see that.
 */
export interface RepackSource {
  id: number;
  product: string;
  name: string;
  unit: string;
  kind: 'lot' | 'serial' | 'bulk';
  number: string | null;
  lot: string | null;
  expires: string | null;
  state: string;
  place: string;
  quantity: string;
  netWeightKg: string | null;
  unitCost: string | null;
}
export interface RepackProduct {
  code: string;
  name: string;
  unit: string;
  decimals: number;
  marking: Marking;
  netWeightKg: string | null;
}

/**
 * The marks to be repacked with where most of each lies; those that lie nowhere are left out.
 * @param seesCosts whether whoever asks may see what they cost
 */
export async function readRepackSources(
  db: Sql,
  ids: readonly number[],
  seesCosts: boolean
): Promise<RepackSource[]> {
  await carryCosts(db);
  const rows = await db<RepackSource[]>`
    SELECT DISTINCT ON (m.id) m.id, p.code AS product, p.name, p.unit, m.kind, m.number,
      l.number AS lot, ${expiryOf(db)} AS expires,
      ${stateOf(db)} AS state,
      c.code AS place, s.quantity, p.net_weight_kg AS "netWeightKg",
      round(${costNow(db, db`m.id`)}, 6) AS "unitCost"
    FROM mark m
      JOIN product p ON p.id = m.product_id
      JOIN stock s ON s.mark_id = m.id AND s.quantity > 0
      JOIN place c ON c.id = s.place_id AND c.kind NOT IN ('quarantine', 'transit')
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE m.id = ANY(${ids as number[]})
    ORDER BY m.id, s.quantity DESC
  `;
  const byId = new Map(rows.map((row) => [row.id, row]));
  return ids.flatMap((id) => {
    const row = byId.get(id);
    return row
      ? [
          {
            ...row,
            quantity: trimZeros(row.quantity),
            netWeightKg: row.netWeightKg && trimZeros(row.netWeightKg),
            unitCost: seesCosts && row.unitCost ? trimZeros(row.unitCost) : null
          }
        ]
      : [];
  });
}

export async function readRepackProducts(db: Db): Promise<RepackProduct[]> {
  const rows = await db<RepackProduct[]>`
    SELECT code, name, unit, decimals, marking, net_weight_kg AS "netWeightKg"
    FROM product
    ORDER BY code
  `;
  return rows.map((row) => ({
    ...row,
    netWeightKg: row.netWeightKg && trimZeros(row.netWeightKg)
  }));
}
