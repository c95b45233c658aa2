import { expect, it } from 'vitest';
import { sayNetWeight } from './say-net-weight.ts';

it('adds up what has a weight, and says of what it is not known', () => {
  const heavy = { quantity: '3', net: '1.250' };
  const light = { quantity: '10', net: '0.004' };
  const open = { quantity: '2', net: null };
  expect(sayNetWeight([heavy, light])).toBe('3.79 kg');
  expect(sayNetWeight([heavy, open])).toBe('3.75 kg, and 1 row of unknown weight');
  expect(sayNetWeight([open, open])).toBe('not known');
  expect(sayNetWeight([])).toBe('nothing');
});
