import { describe, expect, test } from 'vitest';
import type { ProductRecord } from '../../../core/catalogue/product-record.ts';
import {
  bodyOf,
  markingForm,
  markingPart,
  sizeBody,
  sizeForm,
  unitsBody,
  unitsForm,
  whatBody,
  whatForm
} from './product-form.ts';

const JACKET: ProductRecord = {
  ...{ code: 'J-1', name: 'jacket', unit: 'each', decimals: 0, made: true },
  ...{ marking: 'serial-in-lot', plan: null, shelfLifeDays: 730, warrantyMonths: 24 },
  ...{ gtin: '06291041500213', netWeightKg: '1.2', grossWeightKg: '1.4' },
  ...{ lengthCm: '40', widthCm: '30', heightCm: '12.5', overReceiptPercent: '0' },
  ...{ lotScheme: null, serialScheme: 'SER' },
  units: [{ name: 'carton', holds: '12', gtin: null }],
  components: []
};

describe('a product that is changed in one stretch', () => {
  test('is sent whole, as it stands, where nothing is typed', () => {
    const whole = bodyOf(JACKET);
    expect({ ...whole, ...whatBody(whatForm(JACKET)) }).toEqual({
      ...whole,
      overReceiptPercent: null
    });
    expect({ ...whole, ...sizeBody(sizeForm(JACKET)) }).toEqual(whole);
    expect({ ...whole, ...unitsBody(unitsForm(JACKET)) }).toEqual(whole);
    expect(markingPart(whole, markingForm(JACKET), 'serial-in-lot')).toEqual(whole);
  });

  test('has neither code nor bill in what is sent: the one is its address, the other has versions', () => {
    expect(bodyOf(JACKET)).not.toHaveProperty('code');
    expect(bodyOf(JACKET)).not.toHaveProperty('components');
  });

  test('is marked as its plan says where it has one', () => {
    const planned = { ...JACKET, plan: 'DEVICE' };
    expect(bodyOf(planned)).not.toHaveProperty('marking');
    const form = { ...markingForm(JACKET), plan: 'DEVICE' };
    expect(markingPart(bodyOf(JACKET), form, 'serial')).toMatchObject({ plan: 'DEVICE' });
    expect(markingPart(bodyOf(JACKET), form, 'serial')).not.toHaveProperty('marking');
  });

  test('loses the numbering of what it is no longer marked by', () => {
    const form = { ...markingForm(JACKET), marking: 'lot' as const, lotScheme: 'LOTS' };
    expect(markingPart(bodyOf(JACKET), form, 'lot')).toMatchObject({
      ...{ marking: 'lot', lotScheme: 'LOTS', serialScheme: null }
    });
  });

  test('sends what is no number as it was typed, so that it is refused by name', () => {
    const form = { ...markingForm(JACKET), shelfLifeDays: 'two years' };
    expect(markingPart(bodyOf(JACKET), form, 'serial-in-lot').shelfLifeDays).toBe('two years');
  });

  test('leaves out units that were never filled in, and no other', () => {
    const units = [
      { name: 'carton', holds: '12', gtin: '' },
      { name: ' ', holds: '', gtin: '' },
      { name: '', holds: '4', gtin: '' }
    ];
    expect(unitsBody({ units }).units).toEqual([
      { name: 'carton', holds: '12', gtin: null },
      { name: '', holds: '4', gtin: null }
    ]);
  });
});
