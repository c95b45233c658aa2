import { expect, it } from 'vitest';
import { deskAddress, deskFileAddress, sortedBy } from './desk-address.ts';

it('keeps filters in the address, and takes them off', () => {
  expect(deskAddress({ q: 'a b', place: 'QW-A1' }, { only: 'held' })).toBe(
    '/on-hand/rows?q=a+b&place=QW-A1&only=held'
  );
  expect(deskAddress({ q: 'a', sort: 'product' }, { q: '' })).toBe('/on-hand/rows');
  expect(deskFileAddress({ only: 'free', sort: 'expires' }, 'xlsx')).toBe(
    '/api/v1/on-hand?only=free&sort=expires&format=xlsx'
  );
});

it('a heading sorts by its column, and once more the other way round', () => {
  expect(sortedBy({}, 'expires')).toEqual({ sort: 'expires', down: '' });
  expect(sortedBy({ sort: 'expires' }, 'expires')).toEqual({ sort: 'expires', down: '1' });
  expect(sortedBy({ sort: 'expires', down: '1' }, 'expires')).toEqual({
    sort: 'expires',
    down: ''
  });
});
