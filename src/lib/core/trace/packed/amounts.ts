/**
 * Micro-units: an exact quantity times a million, as the ledger keeps six places after the point.
 */
export type Micro = bigint;

/** Places after the point that content is carried with while it is worked out. */
export const CONTENT_PLACES = 30;
const CONTENT_ONE = 10n ** BigInt(CONTENT_PLACES);

/** A decimal string of the ledger in micro-units: `"-12.5"` → `-12500000n`. */
export function microOf(text: string): Micro {
  const negative = text.startsWith('-'),
    plain = negative ? text.slice(1) : text;
  const point = plain.indexOf('.');
  const digits =
    point < 0 ? `${plain}000000` : plain.slice(0, point) + plain.slice(point + 1).padEnd(6, '0');
  const value = BigInt(digits);
  return negative ? -value : value;
}

/** The shortest plain decimal string of micro-units. */
export const sayMicro = (micro: Micro): string => sayScaled(micro, 6);

/** Content from micro-units. */
export const contentOfMicro = (micro: Micro): bigint => (micro * CONTENT_ONE) / 1_000_000n;

/**
 * Content as a decimal string with at most twelve places after the point. It is rounded to twenty
 * first: what division cut off far behind then cannot turn a half, and another arithmetic comes to
 * the same string.
 */
export const sayContent = (content: bigint): string =>
  sayScaled(rounded(rounded(content, CONTENT_PLACES - 20), 8), 12);

/**
 * Drops places, rounding a half to the even neighbour, as the decimal arithmetic of core/quantity
 * does.
 */
function rounded(value: bigint, places: number): bigint {
  const by = 10n ** BigInt(places),
    negative = value < 0n,
    size = negative ? -value : value;
  const whole = size / by,
    twice = (size - whole * by) * 2n;
  const up = twice > by || (twice === by && whole % 2n === 1n) ? whole + 1n : whole;
  return negative ? -up : up;
}

function sayScaled(value: bigint, places: number): string {
  if (value === 0n) return '0';
  const negative = value < 0n,
    digits = String(negative ? -value : value).padStart(places + 1, '0');
  let end = digits.length;
  const point = digits.length - places;
  while (end > point && digits.charCodeAt(end - 1) === 48) end--;
  const text =
    end === point
      ? digits.slice(0, point)
      : `${digits.slice(0, point)}.${digits.slice(point, end)}`;
  return negative ? `-${text}` : text;
}
