import { describe, expect, it } from 'vitest';
import { inWalkingOrder, walkingOrder } from './pick-order.ts';

describe('walking order', () => {
  it('counts racks and bins as people do, not by their letters', () => {
    expect(['B10', 'A2', 'B2', 'A10-3', 'A10'].sort(walkingOrder)).toEqual([
      'A2',
      'A10',
      'A10-3',
      'B2',
      'B10'
    ]);
  });
  it('takes one place after the other, and what still has no place last', () => {
    const stops = [
      { place: null, product: 'X', number: null },
      { place: 'R2', product: 'X', number: 'L10' },
      { place: 'R1', product: 'Y', number: 'L1' },
      { place: 'R2', product: 'X', number: 'L9' }
    ];
    expect(inWalkingOrder(stops).map((stop) => `${stop.place} ${stop.number}`)).toEqual([
      'R1 L1',
      'R2 L9',
      'R2 L10',
      'null null'
    ]);
  });
});
