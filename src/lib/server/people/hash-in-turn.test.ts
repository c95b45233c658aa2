import { expect, test } from 'vitest';
import { hashInTurn, TooManyHashes } from './hash-in-turn.ts';

const moment = (): Promise<void> => new Promise((next) => setImmediate(next));

test('one address has one looked at, twenty wait, and the rest is refused at once', async () => {
  let now = 0,
    most = 0;
  const look = async (): Promise<true> => {
    most = Math.max(most, ++now);
    await moment();
    now--;
    return true;
  };
  const all = await Promise.allSettled(
    Array.from({ length: 250 }, () => hashInTurn('10.0.0.1', look))
  );
  expect(most).toBe(1);
  expect(all.filter((one) => one.status === 'fulfilled')).toHaveLength(21);
  const refused = all.flatMap((one) => (one.status === 'rejected' ? [one.reason] : []));
  expect(refused.every((one) => one instanceof TooManyHashes)).toBe(true);
});

test('whoever is elsewhere does not stand behind them', async () => {
  const order: string[] = [];
  const look = (who: string) => async () => {
    await moment();
    order.push(who);
  };
  const many = Array.from({ length: 15 }, () => hashInTurn('10.0.0.2', look('many')));
  const other = hashInTurn('10.0.0.3', look('other'));
  await Promise.all([...many, other]);
  expect(order.indexOf('other')).toBeLessThan(3);
});

test('at most two are looked at beside each other, from wherever', async () => {
  let now = 0,
    most = 0;
  const look = async () => {
    most = Math.max(most, ++now);
    await moment();
    now--;
  };
  await Promise.all(Array.from({ length: 30 }, (_, n) => hashInTurn(`10.0.1.${n}`, look)));
  expect(most).toBe(2);
});
