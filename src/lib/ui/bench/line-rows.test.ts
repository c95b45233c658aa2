import { describe, expect, it } from 'vitest';
import { columnsFor, lineRequest, markedQuantity, stillToMark, type SheetLine } from './line-rows.ts';

const line = (marking: SheetLine['marking'], left = '10'): SheetLine => ({ line: 1, product: 'P', name: 'p', unit: 'each', marking, shelfLifeDays: 30, gtin: null, numbersLots: false, numbersSerials: false, quantity: '10', done: '0', left });

describe('the rows of a sheet', () => {
  it('ask for what the marking needs', () => {
    expect(columnsFor(line('serial-in-lot'), 'receive').map((column) => column.key)).toEqual(['lot', 'serial', 'expires']);
    expect(columnsFor(line('serial-in-lot'), 'ship').map((column) => column.key)).toEqual(['serial']);
    expect(columnsFor(line('none'), 'receive').map((column) => column.key)).toEqual(['quantity']);
  });

  it('count serials by rows and lots by quantity, exactly', () => {
    expect(markedQuantity([{ serial: 'A' }, { serial: ' ' }, { serial: 'B' }], line('serial'))).toBe('2');
    expect(markedQuantity([{ lot: 'A', quantity: '0.1' }, { lot: 'B', quantity: '0.2' }, { lot: 'C', quantity: 'x' }], line('lot'))).toBe('0.3');
    expect(stillToMark([{ lot: 'A', quantity: '12' }], line('lot'))).toBe('0');
  });

  it('become a booking line that remembers which row each mark came from', () => {
    expect(lineRequest([{ serial: '' }, { serial: ' A1 ', expires: '' }, {}, { serial: 'A2' }], line('serial'), 'receive')).toEqual({ marks: [{ serial: 'A1' }, { serial: 'A2' }], quantity: '2', rowOf: [1, 3] });
    expect(lineRequest([{ quantity: '4' }], line('none'), 'receive')).toEqual({ marks: [], quantity: '4', rowOf: [0] });
    expect(lineRequest([{}], line('lot'), 'ship')).toBeNull();
  });
});
