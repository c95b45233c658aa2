import { describe, expect, it } from 'vitest';
import type { Bill } from '../../../core/catalogue/bill.ts';
import { billBody, billForm, blankCoProduct, blankPart, partOf } from './bill-form.ts';

const TODAY = '2026-11-02';
const BILL: Bill = {
  product: 'VEST',
  version: 3,
  validFrom: '2026-01-10',
  batch: '50',
  addedCost: '4.5',
  note: 'lighter buckle',
  parts: [
    {
      ...{ product: 'BUCKLE', quantity: '2', per: 'unit', scrapPercent: '3', follow: 'batch' },
      ...{ positions: ['left', 'right'], alternates: ['BUCKLE-B'], revision: 'C' }
    }
  ],
  coProducts: [{ product: 'OFFCUT', quantity: '0.2', share: '5' }]
};

describe('a bill to go on from', () => {
  it('is typed as it stands, for today, and what was new in it is not new in the next', () => {
    const form = billForm(BILL, TODAY);
    expect(form).toMatchObject({ batch: '50', addedCost: '4.5', note: '', validFrom: TODAY });
    expect(form.parts[0]).toMatchObject({ positions: 'left, right', alternates: 'BUCKLE-B' });
  });

  it('is sent as it was read, where nothing is changed', () => {
    expect(billBody(billForm(BILL, TODAY), true)).toEqual({
      ...{ validFrom: TODAY, batch: '50', addedCost: '4.5', note: '' },
      ...{ parts: BILL.parts, coProducts: BILL.coProducts }
    });
  });

  it('leaves what making one adds out where it is not seen', () => {
    expect(billBody(billForm(BILL, TODAY), false)).not.toHaveProperty('addedCost');
  });

  it('begins with one blank part; what stays blank is not sent', () => {
    const form = billForm(null, TODAY);
    form.coProducts.push(blankCoProduct());
    expect(form.parts).toEqual([blankPart()]);
    expect(billBody(form, true)).toMatchObject({ parts: [], coProducts: [], batch: null });
  });
});

describe('a part as it is typed', () => {
  it('has its positions and alternates apart, by comma or semicolon', () => {
    const line = {
      ...blankPart(),
      positions: ' left ; right,',
      alternates: 'A,B',
      revision: ' C '
    };
    expect(partOf(line)).toMatchObject({
      positions: ['left', 'right'],
      alternates: ['A', 'B'],
      revision: 'C'
    });
  });

  it('is planned without scrap where none is said', () => {
    expect(partOf({ ...blankPart(), scrapPercent: ' ' })).toMatchObject({
      scrapPercent: '0',
      revision: null
    });
  });
});
