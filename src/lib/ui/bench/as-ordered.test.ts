import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { quantity, totalOf } from '../../core/quantity/quantity.ts';
import { asOrdered, fillAll, sayFilled, withFirstExpired, type OnShelf } from './as-ordered.ts';
import type { Row } from './grid.ts';
import { markedQuantity, stillToMark } from './line-rows.ts';
import { sheetLine } from './testing/sheet-line.ts';

const today = '2026-12-01';
const onShelf = (number: string, amount: string, more: Partial<OnShelf> = {}): OnShelf => ({
  id: 1,
  kind: 'lot',
  number,
  quantity: amount,
  expires: null,
  since: '2026-11-01',
  state: 'usable',
  ...more
});
const given = (rows: Row[] = [], shelf: OnShelf[] = []) => ({ rows, shelf, today });
const announced = (serial: string, arrived = false) => ({
  ...{ lot: null, serial, quantity: null, expires: null, supplierNumber: null },
  arrived
});

describe('a line filled as ordered', () => {
  it('takes the quantity where there are no numbers, in the unit it is counted in', () => {
    const line = sheetLine('none', {}, { left: '400' });
    expect(asOrdered(line, 'receive', given())).toEqual({ rows: [{ quantity: '400' }] });
    expect(asOrdered(line, 'receive', { ...given(), unit: 'pack' })).toEqual({
      rows: [{ quantity: '4' }]
    });
  });

  it('leaves a quantity that was typed, and a line that is complete', () => {
    const line = sheetLine('none');
    expect(asOrdered(line, 'receive', given([{ quantity: '3' }]))).toBeNull();
    expect(asOrdered({ ...line, left: '0' }, 'receive', given())).toBeNull();
  });

  it('ticks off what was announced and has not come, after what stands there', () => {
    const line = sheetLine(
      'serial',
      {},
      { announced: [announced('A'), announced('B', true), announced('C')] }
    );
    expect(asOrdered(line, 'receive', given([{ serial: 'c' }]))).toEqual({
      rows: [{ serial: 'c' }, { serial: 'A' }]
    });
  });

  it('makes up no numbers, and says how much came where they come later', () => {
    expect(asOrdered(sheetLine('serial'), 'receive', given())).toBeNull();
    const asks = { ...sheetLine('serial').plan.asks, receive: 'optionally' as const };
    const later = sheetLine('serial', { asks }, { left: '7' });
    expect(asOrdered(later, 'receive', given())).toEqual({ arrived: '7' });
  });

  it('ships what expires first, a lot of two places as one row, nothing held or in quarantine', () => {
    const shelf = [
      onShelf('LATE', '50', { expires: '2027-06-01' }),
      onShelf('SOON', '3', { expires: '2027-01-01' }),
      onShelf('SOON', '2', { expires: '2027-01-01' }),
      onShelf('HELD', '9', { state: 'held' }),
      onShelf('APART', '9', { expires: '2026-12-24', quarantine: true })
    ];
    expect(asOrdered(sheetLine('lot'), 'ship', given([], shelf))).toEqual({
      rows: [
        { lot: 'SOON', quantity: '5' },
        { lot: 'LATE', quantity: '5' }
      ]
    });
    expect(asOrdered(sheetLine('lot'), 'ship', given([], [shelf[3]!]))).toBeNull();
  });

  it('fills all lines, keeps what was typed, and tells which are open still', () => {
    const asks = { ...sheetLine('serial').plan.asks, receive: 'optionally' as const };
    const lines = [
      sheetLine('none', {}, { line: 1, product: 'BULK' }),
      sheetLine('none', {}, { line: 2, product: 'TYPED' }),
      sheetLine('serial', { asks }, { line: 3, product: 'LATER' }),
      sheetLine('serial', { asks }, { line: 4, product: 'SAID' }),
      sheetLine('lot', {}, { line: 5, product: 'LOT' })
    ];
    const sheet = { rows: { 2: [{ quantity: '3' }] }, arrived: { 4: '6' } };
    expect(
      fillAll(lines, 'receive', sheet, { units: { 1: 'pack' }, shelfOf: () => [], today })
    ).toEqual({
      rows: { 1: [{ quantity: '0.1' }], 2: [{ quantity: '3' }] },
      arrived: { 3: '10', 4: '6' },
      open: ['TYPED', 'LOT']
    });
    expect(sheet).toEqual({ rows: { 2: [{ quantity: '3' }] }, arrived: { 4: '6' } });
  });

  it('says what is open still, the first by name', () => {
    expect(sayFilled(2, [], 'Book in')).toBe(
      'All lines stand as ordered: look them over, then book in.'
    );
    expect(sayFilled(9, ['A', 'B', 'C', 'D', 'E'], 'Ship')).toBe(
      '4 of 9 lines stand as ordered. Still open: A, B, C, D and 1 more.'
    );
  });

  it('never takes more than is asked for or there, nor a number twice, whatever stands there', () => {
    const lots = fc.uniqueArray(
      fc.tuple(fc.constantFrom(...'ABCDEFGH'), fc.integer({ min: 1, max: 9 })),
      {
        selector: ([name]) => name
      }
    );
    fc.assert(
      fc.property(lots, lots, fc.integer({ min: 1, max: 40 }), (there, stands, left) => {
        const line = sheetLine('lot', {}, { left: String(left) });
        const rows = stands.map(([lot, amount]): Row => ({ lot, quantity: String(amount) }));
        const shelf = there.map(([lot, amount]) => onShelf(lot, String(amount)));
        const after = withFirstExpired(line, given(rows, shelf));
        const added = after.slice(rows.length);
        expect(after.slice(0, rows.length)).toEqual(rows);
        const names = after.map((row) => row.lot);
        expect(new Set(names).size).toBe(names.length);
        const free = there.filter(([lot]) => !stands.some(([name]) => name === lot));
        const wanted = quantity(stillToMark(rows, line, 'ship'));
        const most = free.reduce((sum, [, amount]) => sum + amount, 0);
        const sum = totalOf(added.map((row) => row.quantity!));
        expect(sum).toBe(wanted.lt(most) ? wanted.toFixed() : String(most));
        expect(markedQuantity(after, line, 'ship')).toBe(
          totalOf(after.map((row) => row.quantity!))
        );
      })
    );
  });
});
