import { describe, expect, it } from 'vitest';
import { proposePlace, type LyingThere } from './put-away.ts';

const PLACES = [
  { code: 'DOCK', kind: 'dock' },
  { code: 'A', kind: 'rack' },
  { code: 'B', kind: 'rack' },
  { code: 'C', kind: 'bin' },
  { code: 'L1', kind: 'line' }
];
const there = (
  place: string,
  mark: number,
  product: string,
  quantity: string,
  lot: number | null = null
): LyingThere => ({
  place,
  kind: PLACES.find((one) => one.code === place)!.kind,
  mark,
  lot,
  product,
  quantity
});
const goods = (more: object = {}) => ({ mark: 1, lot: null, product: 'P', from: 'DOCK', ...more });

describe('putting away', () => {
  it('goes where the same mark lies, before its lot, before its product', () => {
    const lying = [there('A', 7, 'P', '100'), there('B', 9, 'P', '1', 5), there('C', 1, 'P', '1')];
    expect(proposePlace(goods({ lot: 5 }), lying, PLACES)).toEqual({
      place: 'C',
      why: 'same mark'
    });
    expect(proposePlace(goods({ mark: 2, lot: 5 }), lying, PLACES)).toEqual({
      place: 'B',
      why: 'same lot'
    });
    expect(proposePlace(goods({ mark: 2 }), lying, PLACES)).toEqual({
      place: 'A',
      why: 'same product'
    });
  });
  it('goes where most of the product lies, never back to where it is nor to a line', () => {
    const lying = [
      there('A', 7, 'P', '3'),
      there('B', 8, 'P', '2'),
      there('B', 9, 'P', '2'),
      there('L1', 6, 'P', '99'),
      there('DOCK', 1, 'P', '50')
    ];
    expect(proposePlace(goods(), lying, PLACES)).toEqual({ place: 'B', why: 'same product' });
    expect(proposePlace(goods({ from: 'B' }), lying, PLACES)).toEqual({
      place: 'A',
      why: 'same product'
    });
  });
  it('otherwise takes an empty place before a full one, or says there is none', () => {
    expect(proposePlace(goods(), [there('A', 7, 'Q', '3')], PLACES)).toEqual({
      place: 'B',
      why: 'room'
    });
    expect(proposePlace(goods(), [], [{ code: 'DOCK', kind: 'dock' }])).toBeNull();
  });
});
