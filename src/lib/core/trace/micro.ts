import { quantity } from '../quantity/quantity.ts';

/** A decimal string in micro-units as a plain number; exact up to nine thousand million units. */
export const micro = (text: string): number => quantity(text).times(1_000_000).toNumber();
