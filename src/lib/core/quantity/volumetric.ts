import { formatQuantity, parseQuantity, quantity, type Quantity } from './quantity.ts';

/**
 * Divisors from cubic centimetres to kilograms by mode of transport. Common practice of carriers,
 * 3000 to 6000 by mode; there is no standard, so a contract may say otherwise.
 */
export const TRANSPORT_MODES = { road: 3000, courier: 5000, air: 6000 } as const;
export type TransportMode = keyof typeof TRANSPORT_MODES;

/**
 * Length × width × height in cm ÷ the mode's divisor, in kg to the gram; null where a measure is
 * missing.
 */
export function volumetricWeight(
  measures: { lengthCm: string | null; widthCm: string | null; heightCm: string | null },
  mode: TransportMode
): string | null {
  const sides = [measures.lengthCm, measures.widthCm, measures.heightCm].map((side) =>
    side ? parseQuantity(side) : null
  );
  if (sides.some((side) => side === null || side.lte(0))) return null;
  const volume = (sides as Quantity[]).reduce((product, side) => product.times(side), quantity(1));
  return formatQuantity(volume.div(TRANSPORT_MODES[mode]).toDecimalPlaces(3));
}
