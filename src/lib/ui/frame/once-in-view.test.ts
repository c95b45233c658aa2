import { describe, expect, it } from 'vitest';
import { onceInView } from './once-in-view.ts';

describe('a symbol before a camera', () => {
  it('counts once for as long as it stays', () => {
    const counts = onceInView();
    expect([0, 150, 300, 1_700, 3_100].map((now) => counts('A', now))).toEqual([
      true,
      false,
      false,
      false,
      false
    ]);
  });

  it('counts again once it was away, and another counts at once', () => {
    const counts = onceInView();
    expect(counts('A', 0)).toBe(true);
    expect(counts('B', 100)).toBe(true);
    expect(counts('A', 200)).toBe(false);
    expect(counts('A', 1_800)).toBe(true);
  });
});
