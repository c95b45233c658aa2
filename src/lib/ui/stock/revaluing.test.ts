import { expect, it } from 'vitest';
import type { RevaluingMark } from '../../core/stock/costs/told.ts';
import { revaluedLines, revaluedRows, worthOf } from './revaluing.ts';

const mark = (number: string, more: Partial<RevaluingMark> = {}): RevaluingMark => ({
  ...{ mark: 1, kind: 'serial', number, lot: null, product: 'SER', name: 'valve', unit: 'each' },
  ...{ quantity: '1', cost: '5' },
  ...more
});
const lot = mark('L1', { kind: 'lot', product: 'LOT', quantity: '10', cost: null });

it('serials that cost the same are one row, and each is a line once it is told otherwise', () => {
  const rows = revaluedRows([mark('S1'), mark('S2'), mark('S3', { cost: '6' }), lot]);
  expect(rows.map((row) => [row.quantity, row.typed])).toEqual([
    ['2', '5'],
    ['1', '6'],
    ['10', '']
  ]);
  expect(revaluedLines(rows).lines).toEqual([]);
  const told = rows.map((row, at) => (at === 1 ? row : { ...row, typed: '7.5' }));
  expect(revaluedLines(told)).toEqual({
    lines: [
      { product: 'SER', serial: 'S1', unitCost: '7.5' },
      { product: 'SER', serial: 'S2', unitCost: '7.5' },
      { product: 'LOT', lot: 'L1', unitCost: '7.5' }
    ],
    of: [0, 0, 2]
  });
});

it('says what they come to, and of how many that is not known', () => {
  expect(worthOf(revaluedRows([mark('S1'), lot]))).toEqual({ sum: '5', unknown: 1 });
});
