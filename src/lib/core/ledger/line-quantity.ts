import { ONE, parseQuantity, type Quantity } from '../quantity/quantity.ts';
import { shown } from '../numbers/number.ts';
import type { Faults } from '../faults/fault.ts';
import { codeKey, type KnownProduct } from './snapshot.ts';

/** What of a product says how it is counted. */
export type Counted = Pick<KnownProduct, 'code' | 'unit' | 'decimals' | 'units'>;

/**
 * Reads a quantity of a product: a plain decimal above zero, no finer than the product is counted.
 * @param unit another unit of the product that the quantity is in, such as `pack`; the answer is in
 * the product's own
 * @returns null after adding `quantity.mismatch` or `quantity.not-whole` to the faults
 */
export function lineQuantity(
  product: Counted,
  text: string,
  path: string,
  faults: Faults,
  unit?: string
): Quantity | null {
  const given = parseQuantity(text);
  const other =
    unit === undefined || codeKey(unit) === codeKey(product.unit)
      ? undefined
      : product.units.get(codeKey(unit));
  if (unit !== undefined && other === undefined && codeKey(unit) !== codeKey(product.unit)) {
    const known = [product.unit, ...[...product.units.values()].map((one) => one.name)].join(', ');
    faults.add(
      'quantity.mismatch',
      path,
      `${product.code} is not counted in “${shown(unit)}”. Give it in ${known}, or add the unit to the product.`,
      shown(unit)
    );
    return null;
  }
  const value = given && other ? given.times(other.holds) : given;
  if (value === null) {
    faults.add(
      'quantity.mismatch',
      path,
      `“${shown(text)}” is no quantity. Give a plain number such as 12 or 0.25, at most 12 digits before the point and 6 after.`
    );
    return null;
  }
  if (value.lte(0)) {
    faults.add(
      'quantity.mismatch',
      path,
      `The quantity of ${product.code} is ${shown(text.trim())}; it must be above zero.`
    );
    return null;
  }
  if (value.decimalPlaces() > product.decimals) {
    const how =
      product.decimals === 0
        ? `whole ${product.unit}`
        : `${product.unit} with at most ${product.decimals} decimals`;
    faults.add(
      'quantity.not-whole',
      path,
      `${product.code} is counted in ${how}; ${shown(text.trim())} is finer than that.`
    );
    return null;
  }
  return value;
}

/** The quantity of a serial: one, and where it is given it must say so. */
export function serialQuantity(
  product: KnownProduct,
  serial: string,
  text: string | undefined,
  path: string,
  faults: Faults
): Quantity | null {
  if (text === undefined || text.trim() === '') return ONE;
  const value = lineQuantity(product, text, path, faults);
  if (value === null) return null;
  if (!value.eq(1)) {
    faults.add(
      'quantity.mismatch',
      path,
      `Serial ${shown(serial)} is one single unit; its quantity cannot be ${shown(text.trim())}. Give one serial per unit.`,
      shown(serial)
    );
    return null;
  }
  return ONE;
}
