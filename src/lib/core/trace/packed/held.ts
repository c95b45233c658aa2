/** What of a mark is there, and how much of that is the root's. */
export interface Held {
  quantity: bigint;
  content: bigint;
}
export const nothing = (): Held => ({ quantity: 0n, content: 0n });
export const least = (a: bigint, b: bigint): bigint => (a < b ? a : b);
export const partOf = (whole: Held, amount: bigint): bigint =>
  whole.quantity <= 0n ? 0n : (whole.content * least(amount, whole.quantity)) / whole.quantity;

export function add(held: Held, amount: bigint, content: bigint): void {
  held.quantity += amount;
  held.content += content;
}

/** None of anything, by place. */
export const noAmounts = (count: number): bigint[] => new Array<bigint>(count).fill(0n);
