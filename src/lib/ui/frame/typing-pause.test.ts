import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { PAUSE_MS, pauseInTyping } from './typing-pause.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

function waiting(where: EventTarget): { over: () => boolean } {
  let over = false;
  void pauseInTyping(where).then(() => (over = true));
  return { over: () => over };
}

test('where nobody types, a dialog comes up after a moment', async () => {
  const { over } = waiting(new EventTarget());
  await vi.advanceTimersByTimeAsync(PAUSE_MS - 1);
  expect(over()).toBe(false);
  await vi.advanceTimersByTimeAsync(1);
  expect(over()).toBe(true);
});

test.each(['keydown', 'input', 'focusin'])(
  '%s puts it off, however long it goes on',
  async (kind) => {
    const where = new EventTarget();
    const { over } = waiting(where);
    for (let n = 0; n < 20; n++) {
      await vi.advanceTimersByTimeAsync(PAUSE_MS - 1);
      where.dispatchEvent(new Event(kind));
    }
    expect(over()).toBe(false);
    await vi.advanceTimersByTimeAsync(PAUSE_MS);
    expect(over()).toBe(true);
  }
);

test('once it is over, typing is heard no more', async () => {
  const where = new EventTarget();
  const removed = vi.spyOn(where, 'removeEventListener');
  waiting(where);
  await vi.advanceTimersByTimeAsync(PAUSE_MS);
  expect(removed).toHaveBeenCalledTimes(3);
  where.dispatchEvent(new Event('keydown'));
  expect(vi.getTimerCount()).toBe(0);
});
