import { expect, test } from 'vitest';
import { inTurns } from './in-turns.ts';

test('one after the other, in the order asked for; one that fails keeps nobody back', async () => {
  const turn = inTurns(10, () => new Error('too many'));
  const order: string[] = [];
  let atOnce = 0;
  const work = (name: string, fails = false) =>
    turn(async () => {
      expect(++atOnce).toBe(1);
      await new Promise((go) => setImmediate(go));
      atOnce--;
      order.push(name);
      if (fails) throw new Error(name);
      return name;
    });
  const all = await Promise.allSettled([work('a'), work('b', true), work('c')]);
  expect(order).toEqual(['a', 'b', 'c']);
  expect(all.map((one) => one.status)).toEqual(['fulfilled', 'rejected', 'fulfilled']);
});

test('more than may wait are turned away, and there is room again afterwards', async () => {
  const turn = inTurns(2, () => new Error('too many'));
  let end = (): void => {};
  const held = turn(() => new Promise<void>((go) => (end = go)));
  const waiting = [turn(async () => 1), turn(async () => 2)];
  await expect(turn(async () => 3)).rejects.toThrow('too many');
  end();
  await held;
  expect(await Promise.all(waiting)).toEqual([1, 2]);
  expect(await turn(async () => 4)).toBe(4);
});
