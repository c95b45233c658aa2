import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { holm, logFactorial, surprise } from './hypergeometric.ts';
import { rankSources, type Source } from './rank.ts';

/** Exact tail by whole numbers: another arithmetic than the one tested. */
function exactTail(population: number, withIt: number, troubled: number, both: number): number {
  const choose = (n: number, k: number): bigint => {
    if (k < 0 || k > n) return 0n;
    let result = 1n;
    for (let i = 0; i < k; i++) result = (result * BigInt(n - i)) / BigInt(i + 1);
    return result;
  };
  let sum = 0n;
  for (let k = both; k <= Math.min(withIt, troubled); k++)
    sum += choose(withIt, k) * choose(population - withIt, troubled - k);
  return Number((sum * 10n ** 18n) / choose(population, troubled)) / 1e18;
}

describe('how surprising a sharing is', () => {
  // Fisher's tea tasting (The Design of Experiments, 1935): all four of eight cups told right by
  // chance, 1 in 70; three or more, 17 in 70 (from memory; recomputed).
  it('gives the chance of Fisher’s tea tasting', () => {
    expect(surprise(8, 4, 4, 4)).toBeCloseTo(1 / 70, 14);
    expect(surprise(8, 4, 4, 3)).toBeCloseTo(17 / 70, 14);
  });
  it('is the exact tail, summed with whole numbers (property)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 120 }),
        fc.nat(120),
        fc.nat(120),
        fc.nat(120),
        (population, a, b, c) => {
          const withIt = Math.min(a, population),
            troubled = Math.min(b, population),
            both = Math.min(c, withIt, troubled);
          expect(surprise(population, withIt, troubled, both)).toBeCloseTo(
            exactTail(population, withIt, troubled, both),
            10
          );
        }
      ),
      { numRuns: 400 }
    );
  });
  it('neither overflows nor vanishes for a million units', () => {
    expect(surprise(1_000_000, 500, 40, 40)).toBeGreaterThan(0);
    expect(surprise(1_000_000, 1_000_000, 40, 40)).toBe(1);
    expect(surprise(10, 3, 2, 3)).toBe(0);
    // ln 1000! (NIST Digital Library of Mathematical Functions; recomputed by adding logarithms).
    let sum = 0;
    for (let n = 1; n <= 1000; n++) sum += Math.log(n);
    expect(logFactorial(1000)).toBeCloseTo(sum, 8);
  });
  it('is corrected for many tests as Holm has it', () => {
    // The worked steps of the procedure: 0.01 × 4, 0.02 × 3, 0.03 × 2, 0.04 × 1, never falling.
    expect(holm([0.04, 0.01, 0.03, 0.02]).map((value) => Math.round(value * 100) / 100)).toEqual([
      0.06, 0.04, 0.06, 0.06
    ]);
    expect(holm([0.9, 0.8])).toEqual([1, 1]);
    expect(holm([])).toEqual([]);
  });
});

describe('what troubled units share', () => {
  const source = (key: string, troubled: number, population: number): Source => ({
    key,
    kind: 'mark',
    says: key,
    troubled,
    population
  });
  it('puts the one lot all of them have first, and what everything has last', () => {
    const ranked = rankSources(
      [source('glue in all', 8, 400), source('bad bobbin', 8, 12), source('half', 4, 200)],
      8,
      400
    );
    expect(ranked.map((one) => [one.key, one.standsOut])).toEqual([
      ['bad bobbin', true],
      ['half', false],
      ['glue in all', false]
    ]);
    expect(ranked[0]).toMatchObject({ coverage: 1, background: 4 / 392 });
  });
  it('says that nothing stands out where nothing does', () => {
    expect(
      rankSources([source('a', 3, 200), source('b', 2, 180), source('c', 5, 400)], 5, 400).every(
        (one) => !one.standsOut
      )
    ).toBe(true);
  });
  it('counts sources that the same units have as one test, and ranks them alike', () => {
    const [a, b] = rankSources([source('lot', 3, 3), source('its only parent', 3, 3)], 3, 300);
    expect(a!.corrected).toBe(b!.corrected);
    expect(a!.corrected).toBeCloseTo(surprise(300, 3, 3, 3), 15);
  });
  it('finds a planted source among random ones (property)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 40, max: 360 }), { minLength: 5, maxLength: 60 }),
        (sizes) => {
          const random = sizes.map((size, index) =>
            source(`r${index}`, Math.round((size / 400) * 10), size)
          );
          expect(rankSources([...random, source('planted', 10, 14)], 10, 400)[0]!.key).toBe(
            'planted'
          );
        }
      )
    );
  });
});
