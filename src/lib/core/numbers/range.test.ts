import fc from 'fast-check';
import { expect, it } from 'vitest';
import { readRange } from './range.ts';

it('is every number from the first to the last (property)', () => {
  fc.assert(
    fc.property(fc.nat(99_999), fc.nat(300), (first, more) => {
      const name = (n: number) => `TN-${String(n).padStart(6, '0')}`;
      const reading = readRange(`${name(first)}..${name(first + more)}`);
      const wanted = Array.from({ length: more + 1 }, (_, n) => name(first + n));
      expect(reading).toEqual({ ok: true, numbers: wanted });
    })
  );
});

it('is none where there is one number, and says what is wrong with one that is', () => {
  expect(readRange('TN-0001')).toBeNull();
  expect(readRange('TN-0001 to TN-0003')).toMatchObject({ ok: true });
  expect(readRange('TN-0003..TN-0001')).toMatchObject({
    ok: false,
    why: 'TN-0001 comes before TN-0003'
  });
  expect(readRange('A1..B2')).toMatchObject({ ok: false });
  expect(readRange('A1..A999999')).toMatchObject({
    ok: false,
    why: 'it would be 999999 numbers, and 20000 are the most'
  });
});
