import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { quantity, total, type Quantity } from '../../quantity/quantity.ts';
import type { CostOutput } from './cost-event.ts';
import { spread } from './spread.ts';

const NOTHING_TOLD: ReadonlyMap<number, Quantity> = new Map();
const output = (mark: number, more: Partial<Record<'quantity' | 'share' | 'weight', string>>) => ({
  mark,
  quantity: quantity(more.quantity ?? '1'),
  share: more.share === undefined ? null : quantity(more.share),
  weight: more.weight === undefined ? null : quantity(more.weight),
  added: null
});
const said = (costs: readonly (Quantity | null)[]): (string | null)[] =>
  costs.map((cost) => cost?.toFixed() ?? null);

describe('what each output takes of what went in', () => {
  it('is its weight’s part of it', () => {
    const outputs = [output(1, { weight: '3' }), output(2, { weight: '1' })];
    expect(said(spread(quantity('100'), outputs, NOTHING_TOLD))).toEqual(['75', '25']);
  });

  it('is its stated share; what no share is stated for takes the rest', () => {
    const outputs = [output(1, {}), output(2, { share: '0.05' })];
    expect(said(spread(quantity('80'), outputs, NOTHING_TOLD))).toEqual(['76', '4']);
  });

  it('is what a repack says each costs, where it says it of all', () => {
    const outputs = [output(1, { quantity: '2', weight: '9' }), output(2, { weight: '1' })];
    const told = new Map([
      [1, quantity('10')],
      [2, quantity('20')]
    ]);
    expect(said(spread(quantity('100'), outputs, told))).toEqual(['50', '50']);
    // Of one alone it says nothing about the other: weight decides.
    told.delete(2);
    expect(said(spread(quantity('100'), outputs, told))).toEqual(['90', '10']);
  });

  it('is known to nobody where neither weight nor cost is known of all, or all weigh nothing', () => {
    const unknown = [output(1, { weight: '3' }), output(2, {})];
    expect(spread(quantity('100'), unknown, NOTHING_TOLD)).toEqual([null, null]);
    const nothing = [output(1, { weight: '0' }), output(2, { weight: '0' })];
    expect(spread(quantity('100'), nothing, NOTHING_TOLD)).toEqual([null, null]);
  });

  it('is what was said of it where what went in is worth nobody knows what', () => {
    const outputs = [output(1, { quantity: '4' }), output(2, {})];
    expect(said(spread(null, outputs, new Map([[1, quantity('2.5')]])))).toEqual(['10', null]);
  });

  it('comes to what went in, whatever the weights and shares are', () => {
    const positive = fc.integer({ min: 1, max: 100_000 }).map((n) => (n / 100).toFixed(2));
    const outputs = fc.array(
      fc.record({ weight: positive, share: fc.option(fc.integer({ min: 0, max: 9 })) }),
      { minLength: 1, maxLength: 8 }
    );
    fc.assert(
      fc.property(positive, outputs, (amount, given) => {
        const made: CostOutput[] = given.map(({ weight, share }, at) =>
          output(at, { weight, ...(share === null ? {} : { share: String(share / 100) }) })
        );
        // Only shares, and none of them above nothing: there is nothing to go by.
        fc.pre(given.some(({ share }) => share === null || share > 0));
        const costs = spread(quantity(amount), made, NOTHING_TOLD);
        const sum = total(costs.map((cost) => cost!));
        expect(sum.minus(amount).abs().lt('1e-9')).toBe(true);
        expect(costs.every((cost) => cost!.gte(0))).toBe(true);
      })
    );
  });
});
