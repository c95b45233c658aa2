import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { watchStandstill } from './standstill.ts';

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

it('tells a machine that stood still from one at work', () => {
  const standstill = watchStandstill();
  vi.advanceTimersByTime(10_000);
  expect(standstill()).toBe(0);

  // Nothing ran for 29 seconds; then the clock was put right.
  vi.setSystemTime(Date.now() + 29_000);
  vi.advanceTimersByTime(1_000);
  expect(Math.round(standstill())).toBe(29);
  expect(watchStandstill()()).toBe(0);
  expect(vi.getTimerCount()).toBe(0);
});
