import {
  formatQuantity,
  parseQuantity,
  total,
  ZERO,
  type Quantity
} from '../../core/quantity/quantity.ts';

export interface PackRow {
  product: string;
  quantity: string;
  unitCost: string;
}
export interface PackBalance {
  in: string;
  out: string;
  off: string;
  costIn: string | null;
  costOut: string | null;
  /** Products without a net weight. */ unweighed: string[];
}

/**
 * Net weight and cost of one step of a repack, as it is typed; weights in kg, costs to the cent.
 * Cost is null until every unit of a side has one.
 */
export function packBalance(
  sources: readonly PackRow[],
  results: readonly PackRow[],
  weightOf: (product: string) => string | null
): PackBalance {
  const unweighed = new Set<string>();
  const side = (rows: readonly PackRow[]): { weight: Quantity; cost: Quantity | null } => {
    const given = rows.filter((row) => row.product.trim() && parseQuantity(row.quantity));
    const weight = total(
      given.map((row) => {
        const one = weightOf(row.product);
        if (one === null) unweighed.add(row.product);
        return parseQuantity(row.quantity)!.times(one ?? 0);
      })
    );
    const costs = given.map((row) => parseQuantity(row.unitCost));
    return {
      weight,
      cost:
        given.length > 0 && costs.every((cost) => cost !== null)
          ? total(given.map((row, index) => parseQuantity(row.quantity)!.times(costs[index]!)))
          : null
    };
  };
  const from = side(sources),
    to = side(results);
  const off = from.weight.minus(to.weight);
  return {
    in: formatQuantity(from.weight),
    out: formatQuantity(to.weight),
    off: off.isZero() ? formatQuantity(ZERO) : formatQuantity(off),
    costIn: from.cost?.toFixed(2) ?? null,
    costOut: to.cost?.toFixed(2) ?? null,
    unweighed: [...unweighed]
  };
}
