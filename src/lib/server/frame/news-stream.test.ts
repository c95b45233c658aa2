import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Topic } from '../../core/topics.ts';
import { newsStream } from './news-stream.ts';

type Tell = (topics: readonly Topic[]) => void;

/** News that are followed only when the test says so. */
function slowNews() {
  let tell: Tell = () => {};
  let left = 0;
  let settle = (): void => {};
  let fail = (_: Error): void => {};
  return {
    follow: (to: Tell) =>
      new Promise<() => void>((done, failed) => {
        tell = to;
        settle = () => done(() => (left += 1));
        fail = failed;
      }),
    tell: (topics: readonly Topic[]) => tell(topics),
    settle: () => settle(),
    fail: (error: Error) => fail(error),
    left: () => left
  };
}

const text = (value: Uint8Array | undefined): string => new TextDecoder().decode(value);

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

describe('the stream of news', () => {
  it('sends what changed, gathered, and keeps the line alive', async () => {
    const news = slowNews();
    const reader = newsStream(news).getReader();
    news.settle();
    expect(text((await reader.read()).value)).toBe('retry: 1000\n\n');
    news.tell(['ledger']);
    news.tell(['orders', 'ledger']);
    await vi.advanceTimersByTimeAsync(200);
    expect(text((await reader.read()).value)).toBe('data: ledger orders\n\n');
    await vi.advanceTimersByTimeAsync(20_000);
    expect(text((await reader.read()).value)).toBe(': \n\n');
    await vi.advanceTimersByTimeAsync(10 * 60_000);
    while (!(await reader.read()).done);
    expect(news.left()).toBe(1);
    expect(vi.getTimerCount()).toBe(0);
  });

  // A browser that goes on to the next page at once does this. What a timer throws ends the server.
  it('leaves nothing behind for whoever goes before it is followed', async () => {
    const news = slowNews();
    const stream = newsStream(news);
    await stream.cancel();
    news.tell(['ledger']);
    news.settle();
    await vi.advanceTimersByTimeAsync(60_000);
    expect(news.left()).toBe(1);
    expect(vi.getTimerCount()).toBe(0);
  });

  it('ends where the database does not answer, and what was told meanwhile harms nobody', async () => {
    const news = slowNews();
    const reader = newsStream(news).getReader();
    news.tell(['ledger']);
    news.fail(new Error('no database'));
    expect((await reader.read()).done).toBe(true);
    await vi.advanceTimersByTimeAsync(60_000);
    expect(vi.getTimerCount()).toBe(0);
  });
});
