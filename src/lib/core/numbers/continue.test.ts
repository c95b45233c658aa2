import { expect, it } from 'vitest';
import { continueNumbers } from './continue.ts';

it('counts the last group of digits on and keeps its width', () => {
  expect(continueNumbers('TN-004417', 2)).toEqual(['TN-004418', 'TN-004419']);
  expect(continueNumbers('A9-099B', 2)).toEqual(['A9-100B', 'A9-101B']);
  expect(continueNumbers('99', 1)).toEqual(['100']);
  expect(continueNumbers('S010', 2, -5)).toEqual(['S005', 'S000']);
  expect(continueNumbers('123456789012345678901', 1)).toEqual(['123456789012345678902']);
});

it('gives none where there is nothing to count on', () => {
  expect(continueNumbers('ABC', 3)).toEqual([]);
  expect(continueNumbers('S001', 2, -1)).toEqual([]);
});
