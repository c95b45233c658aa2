import { total, ZERO, type Quantity } from '../../quantity/quantity.ts';
import type { Cost, CostOutput } from './cost-event.ts';

/**
 * What each output takes of the inputs’ cost: its stated share; what no share is stated for by what
 * repacked goods were said to cost, or by weight.
 * @param amount what went in is worth; null where that is not known
 * @param told what one of each is said to cost, where a repack says it
 * @returns the amount of each output, in their order; null where nobody can say
 */
export function spread(
  amount: Cost,
  outputs: readonly CostOutput[],
  told: ReadonlyMap<number, Quantity>
): Cost[] {
  if (amount === null)
    return outputs.map(({ mark, quantity }) => told.get(mark)?.times(quantity) ?? null);
  const shared = total(outputs.map(({ share }) => share ?? ZERO));
  const open = outputs.filter(({ share }) => share === null);
  const rest = amount.minus(amount.times(shared));
  const weights = weighed(open, told);
  const all = weights && total(weights.values());
  return outputs.map((output) => {
    // Shares are kept with twelve digits: three thirds of a cost are all of it.
    if (output.share !== null)
      return open.length === 0
        ? amount.times(output.share).div(shared)
        : amount.times(output.share);
    if (open.length === 1) return rest;
    const weight = weights?.get(output);
    return weight === undefined || !all || all.isZero() ? null : rest.times(weight).div(all);
  });
}

/** What counts of each output when costs are spread; null where that is not known of all. */
function weighed(
  outputs: readonly CostOutput[],
  told: ReadonlyMap<number, Quantity>
): ReadonlyMap<CostOutput, Quantity> | null {
  const byCost = outputs.every(({ mark }) => told.has(mark));
  const weights = new Map<CostOutput, Quantity>();
  for (const output of outputs) {
    const weight = byCost ? told.get(output.mark)!.times(output.quantity) : output.weight;
    if (weight === null) return null;
    weights.set(output, weight);
  }
  return weights;
}
