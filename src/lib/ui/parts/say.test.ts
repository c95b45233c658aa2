import { expect, it } from 'vitest';
import { fewOf } from './say.ts';

it('names the first few of a list and how many more there are', () => {
  expect(fewOf(['a', 'b'], 2)).toBe('a, b');
  expect(fewOf(['a', 'b', 'c', 'd'], 2)).toBe('a, b and 2 more');
  expect(fewOf([], 2)).toBe('');
});
