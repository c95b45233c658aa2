/** Exact numbers for the model: a numerator over a denominator above zero. */
export interface Fraction {
  n: bigint;
  d: bigint;
}

const gcd = (a: bigint, b: bigint): bigint => (b === 0n ? a : gcd(b, a % b));

export function fraction(n: bigint, d = 1n): Fraction {
  const by = gcd(n < 0n ? -n : n, d) || 1n;
  return { n: n / by, d: d / by };
}
export const plus = (a: Fraction, b: Fraction): Fraction =>
  fraction(a.n * b.d + b.n * a.d, a.d * b.d);
export const minus = (a: Fraction, b: Fraction): Fraction =>
  fraction(a.n * b.d - b.n * a.d, a.d * b.d);
export const times = (a: Fraction, b: Fraction): Fraction => fraction(a.n * b.n, a.d * b.d);
export const over = (a: Fraction, b: Fraction): Fraction =>
  b.n < 0n ? fraction(-a.n * b.d, -a.d * b.n) : fraction(a.n * b.d, a.d * b.n);
export const ZERO = fraction(0n);
export const isAbove = (a: Fraction, b: Fraction): boolean => a.n * b.d > b.n * a.d;
export const smaller = (a: Fraction, b: Fraction): Fraction => (isAbove(a, b) ? b : a);

/** As the answers write it: at most twelve places, a half to the even neighbour. */
export function say(a: Fraction): string {
  const scaled = a.n * 10n ** 12n,
    size = scaled < 0n ? -scaled : scaled;
  let whole = size / a.d;
  const twice = (size % a.d) * 2n;
  if (twice > a.d || (twice === a.d && whole % 2n === 1n)) whole++;
  const digits = String(whole).padStart(13, '0');
  const text = `${digits.slice(0, -12)}.${digits.slice(-12)}`.replace(/\.?0+$/, '');
  return scaled < 0n && text !== '0' ? `-${text}` : text;
}
