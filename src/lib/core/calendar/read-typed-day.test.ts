import fc from 'fast-check';
import { format } from 'date-fns';
import { describe, expect, it } from 'vitest';
import { sayDay } from './say-day.ts';
import { readTypedDay } from './read-typed-day.ts';

const today = '2026-11-30';

describe('a day that is typed', () => {
  it.each([
    ['31 dec 27', '2027-12-31'],
    ['31 december 27', '2027-12-31'],
    ['31 December 2027', '2027-12-31'],
    ['31 DECEMBER 2027', '2027-12-31'],
    ["31 Dec '27", '2027-12-31'],
    ['31dec27', '2027-12-31'],
    ['31.12.27', '2027-12-31'],
    ['31/12/27', '2027-12-31'],
    ['3-1-27', '2027-01-03'],
    ['311227', '2027-12-31'],
    ['31122027', '2027-12-31'],
    ['20271231', '2027-12-31'],
    ['2027-12-31', '2027-12-31'],
    ['12 Mar 2027', '2027-03-12'],
    ['today', '2026-11-30'],
    ['Tomorrow', '2026-12-01'],
    ['yesterday', '2026-11-29'],
    ['+14', '2026-12-14'],
    ['-1', '2026-11-29'],
    ['+2w', '2026-12-14'],
    ['+3m', '2027-02-28'],
    ['+1 y', '2027-11-30'],
    ['01 jan 76', '2076-01-01'],
    ['01 jan 77', '1977-01-01'],
    // no days, or a guess
    ['310227', null],
    ['31 feb 27', null],
    ['13/13/27', null],
    ['31 foo 27', null],
    ['12', null],
    ['1227', null],
    ['', null],
    ['dec 27', null],
    ['12/2027', null]
  ])('“%s” is %s', (text, day) => expect(readTypedDay(text, { today })).toBe(day));

  it.each([
    ['12/2027', '2027-12-31'],
    ['2/28', '2028-02-29'],
    ['2.2027', '2027-02-28'],
    ['2027-02', '2027-02-28'],
    ['dec 27', '2027-12-31'],
    ['Dec 2027', '2027-12-31'],
    ['sept 27', '2027-09-30'],
    ['13/2027', null],
    ['1227', null],
    ['31 dec 27', '2027-12-31']
  ])('where a month means its end, “%s” is %s', (text, day) =>
    expect(readTypedDay(text, { today, monthEnds: true })).toBe(day)
  );

  it('reads back whatever is shown, and every day however it is written', () => {
    const days = fc.date({
      min: new Date(2000, 0, 1),
      max: new Date(2060, 11, 31),
      noInvalidDate: true
    });
    fc.assert(
      fc.property(days, (date) => {
        const day = format(date, 'yyyy-MM-dd');
        const forms = ['d MMM yy', 'ddMMyy', 'd.M.yyyy', 'dd/MM/yy', 'ddMMyyyy', 'yyyyMMdd'];
        for (const form of forms) expect(readTypedDay(format(date, form), { today })).toBe(day);
        expect(readTypedDay(sayDay(day), { today })).toBe(day);
      })
    );
  });
});
