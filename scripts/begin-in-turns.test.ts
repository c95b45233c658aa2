import { expect, test } from 'vitest';
import { beginInTurns } from './begin-in-turns.mjs';

const turn = (): Promise<void> => new Promise((next) => setImmediate(next));

test('hundreds that come at once are begun in order, some in each turn of the event loop', async () => {
  const begun: number[] = [];
  const begin = beginInTurns((asked: number) => begun.push(asked));
  const all = Array.from({ length: 100 }, (_, n) => n);
  for (const one of all) begin(one, null);
  const atFirst = begun.length;
  expect(atFirst).toBeLessThan(100);
  await turn();
  expect(begun.length).toBe(2 * atFirst);
  // Whoever comes now stands behind those that wait.
  begin(100, null);
  while (begun.length < 101) await turn();
  expect(begun).toEqual([...all, 100]);
});

test('one alone is begun at once, and after it the next', async () => {
  const begun: number[] = [];
  const begin = beginInTurns((asked: number) => begun.push(asked));
  begin(1, null);
  expect(begun).toEqual([1]);
  await turn();
  begin(2, null);
  expect(begun).toEqual([1, 2]);
});

test('one that fails to begin leaves the others their turn', async () => {
  const begun: number[] = [];
  const begin = beginInTurns((asked: number) => {
    if (asked === 0) throw new Error('it failed');
    begun.push(asked);
  });
  expect(() => begin(0, null)).toThrow('it failed');
  await turn();
  begin(1, null);
  expect(begun).toEqual([1]);
});
