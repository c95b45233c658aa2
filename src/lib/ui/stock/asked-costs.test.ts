import { expect, it } from 'vitest';
import { costsAsked, costsTold } from './asked-costs.ts';
import { countKey } from './counting.svelte.ts';

const serial = { product: 'SER', place: 'A', lot: 'L9', serial: 'S1' };
const lot = { product: 'LOT', place: 'A', lot: 'L1', serial: null };
const loose = { product: 'BULK', place: 'A', lot: null, serial: null };
const lines = [serial, lot, loose];

it('asks for costs where a refusal does, and tells what was typed as the API takes it', () => {
  const errors = [
    { code: 'cost.missing', number: 's1' },
    { code: 'cost.missing', number: 'BULK' },
    { code: 'stock.short', number: 'L1' }
  ];
  expect([...costsAsked(lines, errors)]).toEqual([countKey(serial), countKey(loose)]);
  const typed = { [countKey(serial)]: ' 9.80 ', [countKey(loose)]: '1', [countKey(lot)]: ' ' };
  expect(costsTold(lines, typed)).toEqual([
    { product: 'SER', serial: 'S1', unitCost: '9.80' },
    { product: 'BULK', unitCost: '1' }
  ]);
});
