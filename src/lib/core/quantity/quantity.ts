import { Decimal } from 'decimal.js';

/**
 * Exact decimal arithmetic for quantities: 12 digits before the point and 6 after are kept, 40
 * while calculating.
 */
const Exact = Decimal.clone({
  precision: 40,
  rounding: Decimal.ROUND_HALF_EVEN,
  toExpNeg: -30,
  toExpPos: 30
});

export type Quantity = Decimal;
export const ZERO: Quantity = new Exact(0);
/** The quantity of a serial; one object, so that adding up ten thousand of them is counting. */
export const ONE: Quantity = new Exact(1);
/** The quantity of a serial that leaves; one object too. */
export const MINUS_ONE: Quantity = new Exact(-1);

/** How a serial's quantity is written, and what is left of it: of ten thousand rows nearly all. */
const COMMON: ReadonlyMap<string, Quantity> = new Map([
  ['1', ONE],
  ['1.000000', ONE],
  ['0', ZERO],
  ['0.000000', ZERO]
]);

const PLAIN = /^-?\d{1,12}(\.\d+)?$/;

/**
 * Reads a decimal string such as `"12"` or `"0.250"`.
 * @returns null where the text is no plain decimal number, or has more digits than the ledger keeps
 * (12 before the point, 6 after)
 */
export function parseQuantity(text: string): Quantity | null {
  const trimmed = text.trim();
  const common = COMMON.get(trimmed);
  if (common) return common;
  if (!PLAIN.test(trimmed)) return null;
  const value = new Exact(trimmed);
  return value.decimalPlaces() <= 6 ? value : null;
}

/** Whether a text is a quantity the ledger keeps, without making one of it. */
export const isQuantity = (text: string): boolean =>
  PLAIN.test(text) &&
  (text.indexOf('.') < 0 || text.length - text.indexOf('.') <= 7 || parseQuantity(text) !== null);

/** A quantity from a value that is known to be good: the database's numeric, a literal. */
export const quantity = (value: string | number): Quantity =>
  (typeof value === 'string' ? COMMON.get(value) : undefined) ?? new Exact(value);

/** Whether there is any of it. */
export const isAny = (value: Quantity): boolean => !value.isZero() && value.isPositive();

/** What takes back a quantity: of one, the same object each time. */
export const opposite = (value: Quantity): Quantity =>
  value === ONE ? MINUS_ONE : value.negated();

/** The shortest plain decimal string: `"12"`, `"0.25"`; never an exponent, never `-0`. */
export const formatQuantity = (value: Quantity): string => (value.isZero() ? '0' : value.toFixed());

/** Sum of any number of quantities; zero for none. */
export const total = (values: Iterable<Quantity>): Quantity => {
  let sum = ZERO,
    ones = 0;
  for (const value of values) {
    if (value === ONE) ones++;
    else if (value !== ZERO) sum = sum.plus(value);
  }
  if (ones === 0) return sum;
  return ones === 1 && sum === ZERO ? ONE : sum.plus(ones);
};

/** Sum of decimal strings, as a string. */
export const totalOf = (values: Iterable<string>): string => {
  let sum = ZERO;
  for (const value of values) sum = sum.plus(value);
  return formatQuantity(sum);
};
