import { describe, expect, it } from 'vitest';
import { quantity } from '../quantity/quantity.ts';
import type { Snapshot } from './snapshot.ts';
import { readKnownText, knownText } from './known-text.ts';

describe('what a decision knows, as text', () => {
  it('comes back as it was: quantities exact, maps as maps, instants as instants', () => {
    const known = {
      happenedAt: new Date('2026-12-01T08:00:00Z'),
      day: '2026-12-01',
      stock: new Map([[7, new Map([['DOCK', quantity('0.250000')]])]]),
      untested: new Set([3]),
      costs: new Map([[7, quantity('123456789012.123456')]])
    } as unknown as Snapshot;
    const back = readKnownText(knownText(known));
    expect(back).toEqual(known);
    expect(back.costs.get(7)!.plus('0.000001').toFixed()).toBe('123456789012.123457');
    // Nothing is true of it that is a shorter text: false is no quantity.
    expect(readKnownText(knownText({ ...known, day: '' }))).toMatchObject({ day: '' });
  });
});
