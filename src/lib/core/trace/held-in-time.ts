import { ZERO, quantity, type Quantity } from '../quantity/quantity.ts';

/** What of a mark is there, and how much of that is the root's. */
export interface Held {
  quantity: Quantity;
  content: Quantity;
}
export const nothing = (): Held => ({ quantity: ZERO, content: ZERO });
export const least = (a: Quantity, b: Quantity): Quantity => (a.lt(b) ? a : b);

/** Micro-units as the decimal they stand for. */
export const exact = (micro: number): Quantity => quantity(micro).div(1_000_000);

export function add(held: Held, amount: Quantity, content: Quantity): void {
  held.quantity = held.quantity.plus(amount);
  held.content = held.content.plus(content);
}

export const partOf = (whole: Held, amount: Quantity): Quantity =>
  whole.content.times(least(amount, whole.quantity)).div(whole.quantity);
