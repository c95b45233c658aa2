import type { Faults } from '../faults/fault.ts';
import type { KnownProduct } from '../ledger/snapshot.ts';
import { shown } from '../numbers/number.ts';
import { parseQuantity, type Quantity } from '../quantity/quantity.ts';

/**
 * The cost of one of a product's own unit, in the company's currency, as it was typed.
 * Faults: quantity.mismatch where it is no cost: below zero, no number, or more digits than are kept.
 * @returns null where none was given, or after a fault
 */
export function readUnitCost(
  product: KnownProduct,
  given: string | undefined,
  path: string,
  faults: Faults
): Quantity | null {
  const text = given?.trim();
  if (!text) return null;
  const cost = parseQuantity(text);
  if (cost !== null && cost.gte(0)) return cost;
  const message = `“${shown(text)}” is no cost of one ${product.unit}. Give a number from 0 up, such as 12.50, or leave it out where it is not known.`;
  faults.add('quantity.mismatch', path, message, product.code);
  return null;
}

/** A movement with the cost of one unit, where that is known. */
export const costed = <Movement extends object>(
  movement: Movement,
  unitCost: Quantity | null | undefined
): Movement & { unitCost?: Quantity } => (unitCost == null ? movement : { ...movement, unitCost });
