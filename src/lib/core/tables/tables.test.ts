import { describe, expect, it } from 'vitest';
import { readDay } from '../calendar/read-day.ts';
import { looksLikeHeadings, readHeadings } from './headings.ts';

const COLUMNS = [
  { key: 'code', says: 'code', required: true },
  { key: 'shelfLifeDays', says: 'shelf life days', also: ['shelf life'] },
  { key: 'gtin', says: 'GTIN' }
];

describe('headings', () => {
  it('are found whatever their capitals, signs and order, and strangers are named', () =>
    expect(readHeadings(['GTIN', 'Shelf-Life (days)', 'Colour', 'CODE', ''], COLUMNS)).toEqual({
      ok: true,
      columns: ['gtin', 'shelfLifeDays', null, 'code', null],
      unknown: ['Colour']
    }));
  it('that are missing or stand twice are named', () =>
    expect(readHeadings(['shelf life', 'Shelf life days'], COLUMNS)).toEqual({
      ok: false,
      missing: ['code'],
      twice: ['shelf life days']
    }));
  it('are told from goods', () => {
    expect(looksLikeHeadings(['Code', 'GTIN'], COLUMNS)).toBe(true);
    expect(looksLikeHeadings(['code'], COLUMNS)).toBe(true);
    expect(looksLikeHeadings(['A-1', '2027-01-01'], COLUMNS)).toBe(false);
    expect(looksLikeHeadings(['code', 'Colour of the lid'], COLUMNS)).toBe(true);
    expect(looksLikeHeadings(['', ''], COLUMNS)).toBe(false);
  });
});

describe('a date as people write it', () => {
  it.each([
    ['2027-03-12', '2027-03-12'],
    ['2027/3/12', '2027-03-12'],
    ['12/03/2027', '2027-03-12'],
    ['12.3.2027', '2027-03-12'],
    ['12 Mar 2027', '2027-03-12'],
    ['1 September 2027', '2027-09-01'],
    [' 29 Feb 2028 ', '2028-02-29'],
    ['29 Feb 2027', null],
    ['31.04.2027', null],
    ['300230', null],
    ['310200', null],
    ['12/03/27', null],
    ['12 Mrz 2027', null],
    ['03/13/2027', null],
    ['', null],
    ['tomorrow', null]
  ])('“%s” is %s', (text, expected) => expect(readDay(text)).toBe(expected));
});
