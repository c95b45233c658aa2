import { expect, it } from 'vitest';
import type { Part } from './moving.ts';
import { arriving, sayCartons, tickArrived } from './arriving.ts';
import { leaving, saidOfParts, sayShort, takeProposed, tickedByProduct } from './transferring.ts';

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
  const { lines, of, units } = leaving(parts, ['C1']);
  expect(lines).toEqual([
    { product: 'KG', place: 'A', marks: [{ lot: 'L1', quantity: '6' }] },
    { product: 'KG', place: 'A', marks: [{ serial: 'S1' }] },
    { product: 'KG', place: 'A', quantity: '3' }
  ]);
  expect([of, units]).toEqual([[1, 2, 3], ['C1']]);
  expect(arriving(parts, []).lines[2]).toEqual({ product: 'KG', quantity: '3' });
});

it('puts what is wrong beside the part it means', () => {
  const { said, rest } = saidOfParts(leaving(parts, []), [
    { path: 'lines[1]', message: 'not on the way' },
    { path: 'document', message: 'taken' }
  ]);
  expect([...said]).toEqual([[2, 'not on the way']]);
  expect(rest).toEqual(['taken']);
});

const carton = (sscc: string, ...contents: [number, string][]) => ({
  sscc,
  pallet: 'P1',
  contents: contents.map(([mark, quantity]) => ({ mark, quantity }))
});
const underWay: Part[] = [
  { row, to: '', quantity: '10', going: false },
  { row: { ...row, mark: 2, kind: 'serial', number: 'S1' }, to: '', quantity: '1', going: false },
  { row: { ...row, mark: 3, kind: 'serial', number: 'S2' }, to: '', quantity: '1', going: false }
];
const cartons = [carton('C1', [1, '3'], [2, '1']), carton('C2', [1, '4'])];

it('a carton arrives as one where all that is in it is ticked, and only the rest as lines', () => {
  const all = underWay.map((part) => ({ ...part, going: true }));
  expect(arriving(all, cartons)).toEqual({
    lines: [
      { product: 'KG', marks: [{ lot: 'L1', quantity: '3' }] },
      { product: 'KG', marks: [{ serial: 'S2' }] }
    ],
    of: [0, 2],
    units: ['C1', 'C2']
  });
  // Without what is in it the carton is not here: the row is told so by whoever books it.
  const torn = all.map((part) => (part.row.mark === 1 ? { ...part, going: false } : part));
  expect(arriving(torn, cartons)).toMatchObject({ of: [1, 2], units: [] });
  const mistyped = all.map((part) => (part.row.mark === 1 ? { ...part, quantity: 'x' } : part));
  expect(arriving(mistyped, cartons).lines[0]!.marks).toEqual([{ lot: 'L1', quantity: 'x' }]);
});

it('a scan ticks a number, a carton, all of a pallet, or the carton a serial is in', () => {
  const ticked = (scan: string, from = underWay) =>
    tickArrived(from, cartons, scan)?.map((part) => (part.going ? part.quantity : '')) ?? null;
  expect(ticked('s2')).toEqual(['', '', '1']);
  expect(ticked('C2')).toEqual(['4', '', '']);
  expect(ticked('P1')).toEqual(['7', '1', '']);
  expect(ticked('S1')).toEqual(['3', '1', '']);
  expect(ticked('l1')).toEqual(['10', '', '']);
  expect(ticked('C2', tickArrived(underWay, cartons, 'S1')!)).toEqual(['7', '1', '']);
  expect(ticked('C9')).toBeNull();
});

it('says in which carton a thing is', () => {
  const lying = underWay.map((part) => part.row);
  expect([...sayCartons(lying, cartons)]).toEqual([
    [1, 'in 2 cartons'],
    [2, 'in carton C1']
  ]);
  // Three and four are in cartons, and only four are on the way: which they are is open.
  const four = lying.map((row) => (row.mark === 1 ? { ...row, quantity: '4' } : row));
  expect(sayCartons(four, cartons).get(1)).toBe('may be in 2 cartons');
});

it('adds up what is ticked by product, to hold it against what was ordered', () => {
  expect([...tickedByProduct(parts)]).toEqual([['KG', '10']]);
  const typed = parts.map((part) => ({ ...part, quantity: 'ten' }));
  expect([...tickedByProduct(typed)]).toEqual([]);
});

it('takes of what was proposed only as much as was asked for', () => {
  const other = { ...row, mark: 2, number: 'L2' };
  const put = takeProposed([parts[1]!], [{ ...other, take: '2.5' }]);
  expect(put.map((part) => [part.row.number, part.quantity, part.going])).toEqual([
    ['L2', '2.5', true],
    ['L1', '6', true]
  ]);
});

it('says what is not to be had at the site', () => {
  expect(sayShort([], 'Quay')).toBe('');
  expect(sayShort([{ product: 'KG', quantity: '1.5' }], 'Quay')).toBe(
    'Not free at Quay: 1.5 of KG.'
  );
});
