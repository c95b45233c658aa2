import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { closeDb, db, renewDb } from './client.ts';

beforeEach(() => {
  vi.useFakeTimers();
  // Nobody is asked: a pool connects at its first question.
  vi.stubEnv('EARMARK_APP_URL', 'postgres://nobody@127.0.0.1:1/none');
});
afterEach(async () => {
  vi.useRealTimers();
  vi.unstubAllEnvs();
  await closeDb();
});

it('throws a broken pool away once for all of its connections that say so at a time', () => {
  vi.advanceTimersByTime(60_000);
  const first = db();
  vi.advanceTimersByTime(60_000);
  renewDb();
  const second = db();
  expect(second).not.toBe(first);
  for (let connection = 0; connection < 12; connection++) renewDb();
  expect(db(), 'kept for a moment').toBe(second);
  vi.advanceTimersByTime(3_000);
  const third = db();
  expect(third, 'and then thrown away, as it may be one that broke').not.toBe(second);
  vi.advanceTimersByTime(60_000);
  expect(db(), 'once').toBe(third);
});
