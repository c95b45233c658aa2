import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { watchStandstills } from './standstill.ts';

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

it('tells a machine that stood still from one at work', () => {
  const begun = Date.now();
  const watched = watchStandstills();
  vi.advanceTimersByTime(10_000);
  expect(watched.longestSince(begun)).toBe(0);

  // Nothing ran for 29 seconds; then the clock was put right.
  vi.setSystemTime(Date.now() + 29_000);
  vi.advanceTimersByTime(1_000);
  expect(Math.round(watched.longestSince(begun))).toBe(29);
  expect(watched.longestSince(Date.now())).toBe(0);
  watched.end();
  expect(vi.getTimerCount()).toBe(0);
});
