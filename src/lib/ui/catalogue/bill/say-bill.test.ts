import { describe, expect, it } from 'vitest';
import type { Bill, BillPart } from '../../../core/catalogue/bill.ts';
import { sayBill, sayPart } from './say-bill.ts';

const PLAIN: BillPart = {
  ...{ product: 'BUCKLE', quantity: '2', per: 'unit', scrapPercent: '0', follow: 'unit' },
  ...{ positions: [], alternates: [], revision: null }
};
const BILL: Bill = {
  ...{ product: 'VEST', version: 1, validFrom: '2026-01-10', batch: null, note: '' },
  ...{ parts: [PLAIN], coProducts: [] }
};
const MADE = { unit: 'each', currency: 'EUR' };
const nameOf = (): string => 'webbing offcut';

describe('a part of a bill, as it is said', () => {
  it('says how it is named, and no more where there is no more', () => {
    expect(sayPart(PLAIN)).toEqual(['named for each unit']);
    expect(sayPart({ ...PLAIN, follow: 'drawn' })).toEqual([
      'drawn by itself, first expired first'
    ]);
  });

  it('says where it sits, what goes in instead, its revision and its scrap', () => {
    const part: BillPart = {
      ...{ ...PLAIN, follow: 'batch', positions: ['left', 'right'], revision: 'C' },
      ...{ alternates: ['A', 'B', 'D'], scrapPercent: '3' }
    };
    expect(sayPart(part)).toEqual([
      'named once for the batch',
      'sits left and right',
      'of revision C',
      'or A, B or D instead',
      '3 % more is planned for'
    ]);
  });
});

describe('what a bill has beside its parts', () => {
  it('is nothing where it has nothing', () => {
    expect(sayBill(BILL, MADE, nameOf)).toEqual([]);
  });

  it('is how much a batch makes, or that the order is one where something goes in by batch', () => {
    expect(sayBill({ ...BILL, batch: '12500' }, MADE, nameOf)).toEqual([
      'A batch makes 12\u2009500 each.'
    ]);
    const byBatch: Bill = { ...BILL, parts: [{ ...PLAIN, per: 'batch' }] };
    expect(sayBill(byBatch, MADE, nameOf)).toEqual(['The whole order is one batch.']);
  });

  it('is what else is made, what making one adds, and what is new', () => {
    const bill: Bill = {
      ...{ ...BILL, addedCost: '4.5', note: 'lighter buckle' },
      coProducts: [{ product: 'OFFCUT', quantity: '0.2', share: '5' }]
    };
    expect(sayBill(bill, MADE, nameOf)).toEqual([
      'Making one also makes 0.2 of OFFCUT webbing offcut, which takes 5 % of what goes in.',
      'Making one adds 4.5 EUR to what its parts cost.',
      'New in it: lighter buckle'
    ]);
  });

  it('says no cost to whoever sees none', () => {
    const { addedCost: _, ...unseen } = { ...BILL, addedCost: '4.5' };
    expect(sayBill(unseen, MADE, nameOf)).toEqual([]);
  });
});
