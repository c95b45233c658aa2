import { quantity, type Quantity } from '../../core/quantity/quantity.ts';
import type { Tx } from '../kernel/db/client.ts';
import { idList } from '../kernel/db/id-list.ts';

/** The cost of one of each mark, where it is known: see stock/costs. */
export async function readCosts(tx: Tx, ids: readonly number[]): Promise<Map<number, Quantity>> {
  const rows = await tx<{ mark: number; cost: string | null }[]>`
    SELECT DISTINCT ON (mark_id) mark_id AS mark, unit_cost AS cost
    FROM mark_cost
    WHERE mark_id = ANY(${idList(ids)}::text::bigint[])
    ORDER BY mark_id, event_id DESC, told_by DESC
  `;
  return new Map(rows.flatMap(({ mark, cost }) => (cost === null ? [] : [[mark, quantity(cost)]])));
}

/** The currency costs are kept in; null where they are not. */
export async function readCurrency(tx: Tx): Promise<string | null> {
  const [row] = await tx<{ currency: string | null }[]>`SELECT currency FROM company`;
  return row?.currency ?? null;
}
