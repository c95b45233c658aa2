import { formatQuantity, type Quantity } from '../quantity/quantity.ts';

/** Goods of several measures: each is added up for itself, as kilograms and pieces make no sum. */
export type Amounts = readonly { unit: string; quantity: string }[];

/** Adds up by measure, in the order the measures come; what is zero is left out. */
export function amountsOf(rows: readonly { unit: string; quantity: Quantity }[]): Amounts {
  const sums = new Map<string, Quantity>();
  for (const { unit, quantity: one } of rows) sums.set(unit, sums.get(unit)?.plus(one) ?? one);
  return [...sums]
    .filter(([, sum]) => !sum.isZero())
    .map(([unit, sum]) => ({ unit, quantity: formatQuantity(sum) }));
}

export const noAmount = (amounts: Amounts): boolean => amounts.length === 0;

/** `4 each and 2.5 kg`; `nothing` where there is none. */
export const sayAmounts = (
  amounts: Amounts,
  number: (text: string) => string = (text) => text
): string =>
  amounts.length === 0
    ? 'nothing'
    : amounts.map((one) => `${number(one.quantity)} ${one.unit}`).join(' and ');
