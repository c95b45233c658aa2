import { expect, it } from 'vitest';
import type { Part } from './moving.ts';
import { saidOfParts, transferLines } from './transferring.ts';

const row: Part['row'] = {
  mark: 1,
  kind: 'lot',
  number: 'L1',
  lot: null,
  product: 'KG',
  name: 'resin',
  unit: 'kg',
  state: 'usable',
  from: 'A',
  fromName: 'S, a',
  quantity: '10'
};
const parts: Part[] = [
  { row, to: '', quantity: '4', going: false },
  { row, to: '', quantity: '6', going: true },
  { row: { ...row, kind: 'serial', number: 'S1' }, to: '', quantity: '1', going: true },
  { row: { ...row, kind: 'bulk', number: null }, to: '', quantity: '3', going: true }
];

it('makes a line of each ticked part, with its place where it leaves one', () => {
  expect(transferLines(parts, true)).toEqual([
    { product: 'KG', place: 'A', marks: [{ lot: 'L1', quantity: '6' }] },
    { product: 'KG', place: 'A', marks: [{ serial: 'S1' }] },
    { product: 'KG', place: 'A', quantity: '3' }
  ]);
  expect(transferLines(parts, false)[2]).toEqual({ product: 'KG', quantity: '3' });
});

it('puts what is wrong beside the part it means', () => {
  const { said, rest } = saidOfParts(parts, [
    { path: 'lines[1]', message: 'not on the way' },
    { path: 'document', message: 'taken' }
  ]);
  expect([...said]).toEqual([[2, 'not on the way']]);
  expect(rest).toEqual(['taken']);
});
