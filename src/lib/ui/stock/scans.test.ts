import { expect, it } from 'vitest';
import { linesOfScan, readScans } from './scans.ts';

// SSCC and element string from the worked examples of the GS1 General Specifications, quoted from
// memory; the check digit is computed.
const SSCC = '095201234567891235';

it('reads cartons, symbols, ranges and numbers from a pasted column', () => {
  const column = `(00)${SSCC}\r\n(01)09506000134352(10)L7(21)S9\nTN-1..TN-3\t A1 \n`;
  const lines = linesOfScan(column, '2026-11-29');
  expect(lines).toEqual([SSCC, 'S9', 'TN-1..TN-3', 'A1']);
  expect(readScans(lines)).toEqual({
    cartons: [SSCC],
    numbers: ['S9', 'TN-1', 'TN-2', 'TN-3', 'A1'],
    wrong: []
  });
});

it('says of a range that is none what is wrong with it, and takes the rest', () => {
  expect(readScans(['TN-3..TN-1', 'A1'])).toEqual({
    cartons: [],
    numbers: ['A1'],
    wrong: ['TN-3..TN-1: TN-1 comes before TN-3.']
  });
});
