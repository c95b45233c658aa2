import { describe, expect, test } from 'vitest';
import type { ProductRecord } from '../../../core/catalogue/product-record.ts';
import { sayMarking, saySize, sayUnits, sayWhat } from './say-product.ts';

const PLAIN: ProductRecord = {
  ...{ code: 'P', name: 'p', unit: 'kg', decimals: 3, made: false, marking: 'lot', plan: null },
  ...{ shelfLifeDays: null, warrantyMonths: null, gtin: null, netWeightKg: null },
  ...{ grossWeightKg: null, lengthCm: null, widthCm: null, heightCm: null },
  ...{ overReceiptPercent: '0', lotScheme: null, serialScheme: null, units: [], components: [] }
};
const HAND = { scheme: null, next: null };

describe('a product in sentences', () => {
  test('says what it is counted in, where it comes from and what it lacks', () => {
    expect(sayWhat(PLAIN)).toEqual([
      'Counted in kg, in 3 decimals.',
      'Bought: it is received and not built.',
      'It has no GTIN: its labels and tags carry our own numbers alone.'
    ]);
    const other = { ...PLAIN, decimals: 0, made: true, gtin: '1', overReceiptPercent: '5' };
    expect(sayWhat(other)).toEqual([
      'Counted in kg, in whole units.',
      'Made here, of what its bill says.',
      'Its GTIN is 1.',
      'Up to 5 % more than ordered may come in.'
    ]);
  });

  test('says of numbers only what it is marked by', () => {
    expect(sayMarking(PLAIN, HAND, HAND).join(' ')).toContain('Lots are numbered by hand');
    expect(sayMarking(PLAIN, HAND, HAND).join(' ')).not.toContain('Serials');
    const none = { ...PLAIN, marking: 'none' as const };
    expect(sayMarking(none, HAND, HAND).join(' ')).not.toContain('numbered');
  });

  test('names the next number of its scheme, and the plan where that says it', () => {
    const scheme = { scheme: 'LOTS', next: 'L-07' };
    expect(sayMarking(PLAIN, scheme, HAND)).toContain(
      'Lots are numbered by LOTS; the next is L-07.'
    );
    const planned = { ...PLAIN, plan: 'COLD' };
    const says = sayMarking(planned, HAND, HAND);
    expect(says).toContain('Lots are numbered as plan COLD says.');
    expect(says).toContain('How long it is good is as plan COLD says.');
  });

  test('says how long it is good and under warranty', () => {
    const says = sayMarking({ ...PLAIN, shelfLifeDays: 1, warrantyMonths: 24 }, HAND, HAND);
    expect(says).toContain('Good for 1 day from the day it was made.');
    expect(says).toContain('Under warranty for 24 months from dispatch.');
  });

  test('says its measures only where they are whole', () => {
    expect(saySize(PLAIN)).toEqual([
      'No weight and no size is kept: packing lists leave them out.'
    ]);
    expect(saySize({ ...PLAIN, netWeightKg: '1.2', lengthCm: '40' })).toEqual([
      'One weighs 1.2 kg net.'
    ]);
    // 40 × 30 × 15 cm by the divisors of core/quantity/volumetric.ts.
    const size = { lengthCm: '40', widthCm: '30', heightCm: '15' };
    expect(saySize({ ...PLAIN, ...size })).toEqual([
      'It measures 40 × 30 × 15 cm.',
      'Volumetric weight: 6 kg by road, 3.6 kg by courier, 3 kg by air.'
    ]);
  });

  test('says what its other units hold', () => {
    expect(sayUnits(PLAIN)).toEqual(['It is counted in kg alone.']);
    const units = [{ name: 'drum', holds: '25', gtin: '9' }];
    expect(sayUnits({ ...PLAIN, units })).toEqual(['One drum holds 25 kg; its GTIN is 9.']);
  });
});
