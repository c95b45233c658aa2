import { expect, test } from 'vitest';
import { moved } from './moved.ts';

test('one of a list is moved a place up or down, and stays where there is no place', () => {
  const list = ['a', 'b', 'c'];
  expect(moved(list, 1, -1)).toEqual(['b', 'a', 'c']);
  expect(moved(list, 1, 1)).toEqual(['a', 'c', 'b']);
  expect(moved(list, 0, -1)).toEqual(list);
  expect(moved(list, 2, 1)).toEqual(list);
  expect(list).toEqual(['a', 'b', 'c']);
});
