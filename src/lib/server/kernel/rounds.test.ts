import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { startRounds } from './rounds.ts';

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
});

test('it works now and every so often, also after one that failed', async () => {
  const said = vi.spyOn(console, 'error').mockImplementation(() => {});
  let n = 0;
  const work = async (): Promise<void> => {
    if (++n === 2) throw new Error('no line');
  };
  startRounds({ everyMs: 1000, work, sorry: 'Sorry.' });
  expect(n).toBe(1);
  await vi.advanceTimersByTimeAsync(3000);
  expect(n).toBe(4);
  expect(said.mock.calls).toEqual([['Sorry.', new Error('no line')]]);
});

test('one round at a time: those due meanwhile are left out', async () => {
  let begun = 0;
  let end = (): void => {};
  const work = (): Promise<void> => {
    begun++;
    return new Promise((settle) => (end = settle));
  };
  startRounds({ everyMs: 1000, work, sorry: '' });
  await vi.advanceTimersByTimeAsync(5000);
  expect(begun).toBe(1);
  end();
  await vi.advanceTimersByTimeAsync(1000);
  expect(begun).toBe(2);
});
