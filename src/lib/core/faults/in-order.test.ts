import fc from 'fast-check';
import { expect, test } from 'vitest';
import { inOrder } from './in-order.ts';

const paths = (list: readonly string[]): string[] =>
  inOrder(list.map((path) => ({ path }))).map(({ path }) => path);

test('faults come as a person goes through the sheet', () => {
  const sheet = [
    'document',
    'supplier',
    'lines[0].marks[9]',
    'lines[0].marks[10]',
    'lines[0].quantity',
    'lines[1]',
    'lines[1].product',
    'lines[12].product'
  ];
  expect(paths([...sheet].reverse())).toEqual(sheet);
});

test('faults of one place stay as they were found', () => {
  const found = ['b', 'a', 'c'].map((said) => ({ path: 'lines[3].marks[4]', said }));
  expect(inOrder(found)).toEqual(found);
});

test('any paths are ordered as if their numbers were written with as many digits', () => {
  const index = fc.oneof(fc.nat({ max: 12 }), fc.nat({ max: 99_999 }));
  const part = fc.tuple(fc.constantFrom('lines', 'marks', 'parts'), index);
  const path = fc
    .tuple(fc.array(part, { maxLength: 2 }), fc.constantFrom('', 'quantity', 'document'))
    .map(([parts, field]) =>
      [...parts.map(([name, at]) => `${name}[${at}]`), ...(field ? [field] : [])].join('.')
    );
  const written = (one: string): string =>
    (one.includes('[') ? 1 : 0) + one.replace(/\d+/g, (digits) => digits.padStart(6, '0'));
  fc.assert(
    fc.property(fc.array(path, { maxLength: 40 }), (list) => {
      const told = paths(list).map(written);
      expect(told).toEqual([...told].sort());
    })
  );
});
