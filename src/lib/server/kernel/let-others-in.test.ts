import { expect, test } from 'vitest';
import { inStretches } from './let-others-in.ts';

test('a long list comes whole and in order, and others are served between its stretches', async () => {
  const list = Array.from({ length: 2_500 }, (_, n) => n);
  const told: string[] = [];
  const met: number[] = [];
  for await (const some of inStretches(list)) {
    told.push(`${some.length} of it`);
    met.push(...some);
    setImmediate(() => told.push('another'));
  }
  expect(met).toEqual(list);
  expect(told).toEqual(['1000 of it', 'another', '1000 of it', 'another', '500 of it']);
});

test('of nothing there is nothing', async () => {
  for await (const some of inStretches([])) expect(some).toBeUndefined();
});
