import { quantity, total, type Quantity } from '../quantity/quantity.ts';

/** One mark that came out, with what shares can be told by. */
export interface Sharing {
  quantity: string;
  share: string | null;
  unit: string;
}

/**
 * The part each output takes, adding up to one: by quantity where all have one unit, otherwise by
 * the shares the build states, otherwise equally.
 */
export function weightsOf(outputs: readonly Sharing[]): Quantity[] {
  const oneUnit = outputs.every(({ unit }) => unit === outputs[0]!.unit);
  const stated = outputs.every(({ share }) => share !== null);
  const amounts = outputs.map((output) => {
    if (oneUnit) return quantity(output.quantity);
    return quantity(stated ? output.share! : 1);
  });
  const sum = total(amounts);
  return amounts.map((amount) => amount.div(sum));
}
