import { describe, expect, it } from 'vitest';
import { quantity } from '../../core/quantity/quantity.ts';
import { snapshot } from '../../core/ledger/testing/snapshot.ts';
import type { PickRecord } from '../../core/shipping/pick-record.ts';
import { withLeftContents, withLeftPackings, withLeftPicks } from './left-picks.ts';
import { pickHere } from './pick-here.ts';

const stop = (more: Partial<PickRecord>): PickRecord => ({
  ...{ id: 1, line: 1, product: 'LOT', name: 'lot', unit: 'kg', net: null, mark: 1 },
  ...{ kind: 'lot', number: 'L1', lot: null, expires: null, place: 'A', listed: 'A' },
  ...{ placeName: 'S, a', quantity: '5', picked: '0', packed: '0', who: null, fell: null },
  ...more
});
const ANY = stop({
  ...{ id: 2, product: 'SER', kind: 'serial', mark: null, number: null, place: null },
  ...{ listed: null, quantity: '1', unit: 'each' }
});
const known = snapshot({
  marks: [
    { id: 1, product: 'LOT', kind: 'lot', number: 'L1' },
    { id: 2, product: 'SER', kind: 'serial', number: 'S1' },
    { id: 3, product: 'SER', kind: 'serial', number: 'S2' },
    { id: 4, product: 'LOT', kind: 'lot', number: 'GONE' }
  ],
  stock: [
    [1, 'A', '5'],
    [2, 'B', '1'],
    [3, 'B', '1']
  ],
  promised: new Map([[3, [{ order: 'SO-2', partner: null, quantity: quantity('1') }]]])
});
const pick = (scan: string, more: object = {}, picks = [stop({}), ANY]) =>
  pickHere(known, picks, { scan, ...more }, 'SO-1', '2026-11-23');

describe('a scan at picking, without a line', () => {
  it('takes all of a stop, or the part that is said', () => {
    expect(pick('l1')).toMatchObject({
      is: 'picked',
      effect: { pick: 1, amount: '5', place: 'A', named: null }
    });
    expect(pick('L1', { quantity: '2' })).toMatchObject({ effect: { amount: '2' } });
  });

  it('names a serial where any will do, and none that is promised to another', () => {
    expect(pick('S1')).toMatchObject({
      is: 'picked',
      effect: { pick: 2, place: 'B', named: { mark: 2, number: 'S1', lot: null } }
    });
    expect(pick('S2')).toEqual({
      is: 'refused',
      said: 'S2 is promised to SO-2. Take another.'
    });
  });

  it.each([
    ['X9', /X9 is not known on this device/],
    ['GONE', /GONE of LOT is not on hand/],
    ['\u001D01', /cannot be read|not known/]
  ])('refuses %s', (scan, why) => {
    const here = pick(scan);
    expect(here.is).toBe('refused');
    expect(here.said).toMatch(why);
  });

  it('knows what was picked here before', () => {
    const first = pick('L1', { quantity: '2' });
    if (first.is !== 'picked') throw new Error('it is picked');
    const left = withLeftPicks([stop({}), ANY], [first.effect]);
    expect(left[0]!.picked).toBe('2');
    expect(pick('L1', {}, left)).toMatchObject({ effect: { amount: '3' } });
    const all = withLeftPicks(left, [{ ...first.effect, amount: '3' }]);
    expect(pick('L1', {}, all)).toEqual({ is: 'already', said: 'L1 of LOT is picked already.' });
  });

  it('fills the stop it named', () => {
    const here = pick('S1');
    if (here.is !== 'picked') throw new Error('it is picked');
    const [, any] = withLeftPicks([stop({}), ANY], [here.effect]);
    expect(any).toMatchObject({ mark: 2, number: 'S1', picked: '1', place: 'B' });
  });
});

describe('what was packed on this device', () => {
  const carton = { sscc: '095200010000000010', contents: [], summary: [] };
  const left = [{ unit: carton.sscc, packs: [{ pick: 1, amount: '2' }] }];
  const picks = [stop({ picked: '5' })];

  it('is packed of its stop', () => {
    expect(withLeftPackings(picks, left)[0]!.packed).toBe('2');
  });

  it('stands in its carton, and in no other', () => {
    const other = { ...carton, sscc: '095200010000000027' };
    const [mine, theirs] = withLeftContents([carton, other], left, picks);
    expect(mine!.contents).toMatchObject([{ mark: 1, number: 'L1', quantity: '2' }]);
    expect(theirs!.contents).toEqual([]);
  });
});
