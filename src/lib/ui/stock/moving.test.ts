import { describe, expect, it } from 'vitest';
import type { Lying } from '../../core/stock/lying.ts';
import {
  addParts,
  linesOf,
  missingOf,
  sayMissing,
  sendTo,
  splitPart,
  verdictsOf,
  withKept
} from './moving.ts';

const lot: Lying = {
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
  quantity: '10.5'
};
const serial: Lying = {
  ...lot,
  mark: 2,
  kind: 'serial',
  number: 'S1',
  unit: 'each',
  quantity: '1'
};

describe('what is moved', () => {
  it('is scanned once, goes where the next place says, and becomes a line each', () => {
    const { parts, added } = addParts([], [lot, serial], '');
    expect(added).toBe(2);
    expect(linesOf(parts)).toEqual([]);
    const again = addParts(sendTo(parts, 'B'), [serial], '');
    expect(again.added).toBe(0);
    expect(linesOf(again.parts)).toEqual([
      { product: 'KG', from: 'A', to: 'B', lot: 'L1', quantity: '10.5' },
      { product: 'KG', from: 'A', to: 'B', serial: 'S1' }
    ]);
  });

  it('is split over two places without losing anything', () => {
    const { parts } = addParts([], [lot], 'B');
    expect(splitPart(parts, 0).map(({ quantity, to }) => [quantity, to])).toEqual([
      ['5.25', 'B'],
      ['5.25', '']
    ]);
    const one = addParts([], [serial], 'B').parts;
    expect(splitPart(one, 0)).toHaveLength(1);
  });

  it('has what is wrong beside it, though parts that stay stand between', () => {
    const { parts } = addParts([], [lot, serial], 'B');
    const staying = [{ ...parts[0]!, going: false }, parts[1]!];
    const fault = { code: 'stock.short', path: 'lines[0].quantity', message: 'short' };
    expect([...verdictsOf(staying, [fault], [])]).toEqual([[1, { stop: true, text: 'short' }]]);
  });

  it('goes on from a draft, unless it lies otherwise by now', () => {
    const now = [{ row: lot, to: 'A2', quantity: '10.5', going: true }];
    const kept = splitPart(addParts([], [lot], 'B').parts, 0);
    expect(withKept(now, kept).map((part) => part.to)).toEqual(['B', '']);
    const moved = [{ ...now[0]!, row: { ...lot, quantity: '4' } }];
    expect(withKept(moved, kept)).toEqual(moved);
  });

  it('names what lies nowhere, and no more than a sentence of it', () => {
    expect(missingOf(['l1', 'S1'], [lot, serial])).toEqual([]);
    expect(sayMissing(missingOf(['L1', 'X'], [lot]))).toBe(
      'X lies nowhere here. Check the number.'
    );
    const many = Array.from({ length: 8 }, (_, n) => `N${n}`);
    expect(sayMissing(many)).toContain('N4 and 3 more lie nowhere here');
  });
});
