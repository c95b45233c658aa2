import { formatQuantity, quantity } from '../../core/quantity/quantity.ts';

/** `"12.500000"` → `"12.5"`; quick, as it runs for every row of an answer. */
export const trimZeros = (numeric: string): string =>
  (numeric.endsWith('.000000') && numeric.length > 7
    ? numeric.slice(0, -7)
    : numeric.includes('.')
      ? numeric.replace(/\.?0+$/, '')
      : numeric) || formatQuantity(quantity(numeric));
