import { expect, it } from 'vitest';
import { differsFrom, sayOff, sayWhyMore } from './count-verdict.ts';

const line = (counted: string | null, seen: string | null) => ({
  counted,
  seen,
  elsewhere: null,
  mark: 1
});

it('says by how much a line is off, and nothing of one that is not counted', () => {
  expect(differsFrom(line(null, null))).toBe(false);
  expect(differsFrom(line('2', '2'))).toBe(false);
  expect(differsFrom(line('0', '2'))).toBe(true);
  expect(sayOff(line('3.5', '3'))).toBe('+0.5');
  expect(sayOff(line('0', '2'))).toBe('-2');
});

it('says why more lies there than was known, where it is known', () => {
  expect(sayWhyMore({ ...line('1', '0'), elsewhere: 'B2' })).toBe('lies at B2 by the ledger');
  expect(sayWhyMore({ ...line('1', '0'), mark: null })).toBe('never known');
  expect(sayWhyMore(line('1', '0'))).toBe('');
});
