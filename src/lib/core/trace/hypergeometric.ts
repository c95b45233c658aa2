/**
 * Upper tail of the hypergeometric distribution: how likely it is that, of `troubled` units drawn
 * by chance from a population of `population` of which `withIt` hold a source, at least `both` hold
 * it. In logarithms, so that populations of millions neither overflow nor vanish.
 * Source: the textbook distribution, P(X = k) = C(K, k) C(N − K, n − k) / C(N, n).
 */
export function surprise(
  population: number,
  withIt: number,
  troubled: number,
  both: number
): number {
  if (both <= Math.max(0, troubled + withIt - population)) return 1;
  const most = Math.min(withIt, troubled);
  if (both > most) return 0;
  const whole = logChoose(population, troubled);
  let term = Math.exp(
    logChoose(withIt, both) + logChoose(population - withIt, troubled - both) - whole
  );
  let sum = term;
  for (let k = both; k < most; k++) {
    term *= ((withIt - k) * (troubled - k)) / ((k + 1) * (population - withIt - troubled + k + 1));
    sum += term;
    if (term < sum * 1e-17) break;
  }
  return Math.min(1, sum);
}

/**
 * ln n!, exact sums for small n and Stirling's series beyond. Source: NIST Digital Library of
 * Mathematical Functions, 5.11.1.
 */
export function logFactorial(n: number): number {
  if (n < SMALL.length) return SMALL[n]!;
  const x = n + 1;
  return (
    (x - 0.5) * Math.log(x) -
    x +
    0.918_938_533_204_672_8 +
    1 / (12 * x) -
    1 / (360 * x ** 3) +
    1 / (1260 * x ** 5)
  );
}
const SMALL: number[] = [0];
for (let n = 1; n < 256; n++) SMALL[n] = SMALL[n - 1]! + Math.log(n);

const logChoose = (n: number, k: number): number =>
  k < 0 || k > n ? -Infinity : logFactorial(n) - logFactorial(k) - logFactorial(n - k);

/**
 * Corrects probabilities for many tests made at once, so that with a thousand sources looked at,
 * one at 0.001 is nothing special.
 * Source: Holm, A simple sequentially rejective multiple test procedure, 1979.
 * @param values one probability a test, in any order
 * @returns the corrected ones in the same order
 */
export function holm(values: readonly number[]): number[] {
  const order = values.map((value, index) => ({ value, index })).sort((a, b) => a.value - b.value);
  const corrected: number[] = new Array(values.length);
  let highest = 0;
  order.forEach(({ value, index }, rank) => {
    highest = Math.max(highest, Math.min(1, value * (values.length - rank)));
    corrected[index] = highest;
  });
  return corrected;
}
