import { describe, expect, it } from 'vitest';
import { linesShown, nextOpenLine, sayCover, sayLine } from './line-cards.ts';
import { sheetLine } from './testing/sheet-line.ts';

const lines = [
  { product: 'CYL-33', name: 'gas cylinder 33 g' },
  { product: 'CYL-60', name: 'gas cylinder 60 g' },
  { product: 'GLU-2', name: 'seam glue' }
];
const toGo = ['0', '4', '2'];

describe('the lines of an order', () => {
  it('are found by letters of their product and name, in any order', () => {
    const all = { text: '', onlyOpen: false, toGo };
    expect(linesShown(lines, all)).toEqual([0, 1, 2]);
    expect(linesShown(lines, { ...all, text: '60 cyl' })).toEqual([1]);
    expect(linesShown(lines, { ...all, text: 'SEAM' })).toEqual([2]);
    expect(linesShown(lines, { ...all, text: 'cyl', onlyOpen: true })).toEqual([1]);
    expect(linesShown(lines, { ...all, text: 'rope' })).toEqual([]);
  });

  it('lead to the next of which something is to mark, going round', () => {
    expect(nextOpenLine(toGo, 0)).toBe(1);
    expect(nextOpenLine(toGo, 1)).toBe(2);
    expect(nextOpenLine(toGo, 2)).toBe(1);
    expect(nextOpenLine(['0', '3'], 1)).toBe(1);
    expect(nextOpenLine(['0', '0'], 0)).toBe(1);
  });

  it('say how they are numbered, and whether what is there covers them', () => {
    expect(sayLine(sheetLine('serial-in-lot'), 'receive')).toBe('serial in lot');
    expect(sayLine(sheetLine('none'), 'ship')).toBe('no number');
    expect(sayLine(sheetLine('lot', {}, { enteredAs: '3 packs' }), 'receive')).toBe('3 packs');
    expect(sayLine(sheetLine('lot', {}, { lot: 'L1', place: 'C1' }), 'identify')).toBe(
      'lot L1, C1'
    );
    expect(sayCover('12', '12', 'each')).toEqual({ text: '12 each there', isShort: false });
    expect(sayCover('12.5', '10', 'kg')).toEqual({ text: '2.5 kg short', isShort: true });
  });
});
