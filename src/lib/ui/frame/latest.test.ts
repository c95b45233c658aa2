import { describe, expect, it } from 'vitest';
import { latest } from './latest.ts';

describe('of several questions under way', () => {
  it('only the last one asked counts, whichever is answered first', () => {
    const ask = latest();
    const first = ask();
    expect(first()).toBe(true);
    const second = ask();
    expect([first(), second()]).toEqual([false, true]);
  });
});
