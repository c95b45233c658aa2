import { describe, expect, it } from 'vitest';
import { onceInView } from './once-in-view.ts';

const NOTHING = null;

describe('a symbol before a camera', () => {
  it('counts once for as long as it stays, blurred now and then', () => {
    const counts = onceInView();
    const looks = ['A', 'A', NOTHING, NOTHING, 'A', ...Array<null>(7).fill(NOTHING), 'A'];
    expect(looks.map((seen) => counts(seen)).filter(Boolean)).toHaveLength(1);
  });

  it('counts again once it was away', () => {
    const counts = onceInView();
    expect(counts('A')).toBe(true);
    for (let look = 0; look < 8; look++) expect(counts(NOTHING)).toBe(false);
    expect(counts('A')).toBe(true);
  });

  it('lets another count at once, and comes back from it after a while only', () => {
    const counts = onceInView();
    expect([counts('A'), counts('B'), counts('A')]).toEqual([true, true, false]);
    for (let look = 0; look < 8; look++) counts('B');
    expect(counts('A')).toBe(true);
  });
});
