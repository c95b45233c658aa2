import { expect, it } from 'vitest';
import { groupBy } from './group-by.ts';

it('groups keep the order things came in, and lose none', () => {
  const groups = groupBy(['b1', 'a1', 'b2', 'c1', 'a2'], (thing) => thing[0]);
  expect([...groups]).toEqual([
    ['b', ['b1', 'b2']],
    ['a', ['a1', 'a2']],
    ['c', ['c1']]
  ]);
  expect(groupBy([], () => 1).size).toBe(0);
});
