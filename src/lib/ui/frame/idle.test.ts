import { afterEach, beforeEach, expect, test, vi, type Mock } from 'vitest';
import { watchIdle } from './idle.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const MINUTES = 10;
const minutes = (n: number) => vi.advanceTimersByTimeAsync(n * 60_000);

/** Two tabs of one browser, each with what it was told. */
function tabs() {
  const kept = new Map<string, string>();
  const shared = {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value)
  };
  const tab = (): Tab => {
    const where = new EventTarget();
    const onIdle = vi.fn<() => void>(),
      onActive = vi.fn<() => void>();
    const end = watchIdle({ where, shared, minutes: MINUTES, onIdle, onActive });
    return {
      act: (kind: string) => void where.dispatchEvent(new Event(kind)),
      onIdle,
      onActive,
      end
    };
  };
  return [tab(), tab()] as const;
}
interface Tab {
  act: (kind: string) => void;
  onIdle: Mock<() => void>;
  onActive: Mock<() => void>;
  end: () => void;
}

test('a device left alone is told so once its time is over, and not before', async () => {
  const [tab] = tabs();
  await minutes(MINUTES - 0.01);
  expect(tab.onIdle).not.toHaveBeenCalled();
  await minutes(0.02);
  expect(tab.onIdle).toHaveBeenCalledOnce();
});

test.each(['keydown', 'pointerdown', 'wheel', 'touchstart', 'input'])(
  '%s keeps it open, and the server knows',
  async (kind) => {
    const [tab] = tabs();
    for (let n = 0; n < 5; n++) {
      await minutes(MINUTES * 0.9);
      tab.act(kind);
    }
    expect(tab.onIdle).not.toHaveBeenCalled();
    expect(tab.onActive).toHaveBeenCalledTimes(5);
  }
);

test('who works in one tab is not idle in the other', async () => {
  const [working, other] = tabs();
  for (let n = 0; n < 5; n++) {
    await minutes(MINUTES * 0.6);
    working.act('keydown');
  }
  expect(other.onIdle).not.toHaveBeenCalled();
  await minutes(MINUTES);
  expect(other.onIdle).toHaveBeenCalled();
});

test('after its end nothing is told', async () => {
  const [tab] = tabs();
  tab.end();
  await minutes(MINUTES * 3);
  expect(tab.onIdle).not.toHaveBeenCalled();
});
