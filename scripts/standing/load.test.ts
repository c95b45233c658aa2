import { expect, it } from 'vitest';
import { longestSilence } from './load.ts';

const at = (...moments: number[]) => moments.map((moment) => ({ at: moment }));

it('counts the silence before the first booking, between two, and after the last', () => {
  expect(longestSilence(at(900, 4000, 4500), 1000, 5000)).toBe(3);
  expect(longestSilence(at(1500, 4000, 4500), 1000, 5000)).toBe(2.5);
  expect(longestSilence(at(1500, 2000), 1000, 5000)).toBe(3);
  expect(longestSilence([], 1000, 5000)).toBe(4);
});
