import { expect, it } from 'vitest';
import type { Row } from '../bench/grid.ts';
import { filledRows, openingLines, openingVerdicts } from './opening-rows.ts';

const rows: Row[] = [
  { product: 'SER', place: 'RACK', serial: 'S1' },
  { product: 'SER', place: 'RACK' },
  { product: 'LOT', place: 'RACK', lot: ' L1 ', quantity: '5', expires: '2027-01-01' },
  {}
];

it('makes a line of each row that says something of its own', () => {
  expect(filledRows(rows)).toEqual([0, 2]);
  expect(openingLines(rows)).toEqual([
    { product: 'SER', place: 'RACK', quantity: '1', marks: [{ serial: 'S1' }] },
    {
      product: 'LOT',
      place: 'RACK',
      quantity: '5',
      marks: [{ lot: 'L1', expires: '2027-01-01' }]
    }
  ]);
});

it('says what is wrong beside the row it is wrong in, and that the others hold only when all do', () => {
  const fault = { code: 'place.unknown', path: 'lines[1].place', message: 'There is no place X.' };
  expect([...openingVerdicts(rows, [fault], [], true)]).toEqual([
    [2, { tone: 'stop', text: 'There is no place X' }]
  ]);
  expect([...openingVerdicts(rows, [], [], true).keys()]).toEqual([0, 2]);
});
