import { describe, expect, it } from 'vitest';
import { placeMeant, sayPlace } from './place-of.ts';

const PLACES = [
  { code: 'QW-A1', name: 'rack A1', siteName: 'Quay Works' },
  { code: 'QW-A10', name: 'rack A10', siteName: 'Quay Works' },
  { code: 'DN-A1', name: 'rack A1', siteName: 'Depot North' },
  { code: 'ROOF', name: 'cool store' }
];

describe('a place that is typed', () => {
  it.each([
    ['qw-a1', 'QW-A1'],
    ['QW-A10 ', 'QW-A10'],
    ['Depot North, rack A1', 'DN-A1'],
    ['rack a10', 'QW-A10'],
    ['cool', 'ROOF'],
    ['north', 'DN-A1'],
    ['', '']
  ])('%s is %s', (typed, code) => {
    expect(placeMeant(PLACES, typed)).toBe(code);
  });

  it.each(['rack A1', 'quay', 'NOWHERE'])(
    '%s stays as it was typed: it is none, or several',
    (typed) => {
      expect(placeMeant(PLACES, typed)).toBe(typed);
    }
  );

  it('is called by its site where it has one', () => {
    expect(PLACES.map(sayPlace)).toContain('Quay Works, rack A10');
    expect(sayPlace(PLACES[3]!)).toBe('cool store');
  });
});
