import { describe, expect, it } from 'vitest';
import { layStops } from './lay-stops.ts';

const at = (mark: number, place: string, here: string) => ({
  ...{ mark, place, here },
  placeId: Number(place.slice(1))
});
const laid = (...given: Parameters<typeof layStops>) =>
  layStops(...given).map(
    (one) => `${one.line}: ${one.quantity.toFixed()} of ${one.mark} at ${one.placeId}`
  );

describe('the stops of a pick list', () => {
  it('are walked rack by rack, and a later line gets what an earlier one left', () => {
    expect(
      laid(
        [
          { line: 1, mark: 7, wanted: '5' },
          { line: 2, mark: 7, wanted: '4' }
        ],
        [at(7, 'B10', '6'), at(7, 'B2', '2')]
      )
    ).toEqual(['1: 2 of 7 at 2', '1: 3 of 7 at 10', '2: 3 of 7 at 10']);
  });

  it('are none where nothing lies', () => {
    expect(laid([{ line: 1, mark: 7, wanted: '5' }], [at(8, 'B1', '6')])).toEqual([]);
  });
});
