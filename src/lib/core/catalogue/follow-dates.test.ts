import { describe, expect, it } from 'vitest';
import { followDates, type DatedMark } from './follow-dates.ts';

const mark = (id: number, more: Partial<DatedMark> = {}): DatedMark => ({
  id,
  lotId: null,
  made: null,
  expires: null,
  rule: 'if given',
  shelfLifeDays: null,
  bornOn: '2026-01-01',
  inputs: [],
  ...more
});
const dates = (...args: Parameters<typeof followDates>) =>
  followDates(...args).map((one) => [one.id, one.to]);

describe('dates that follow an amendment', () => {
  it('of a lot’s expiry: its serials, where theirs is the lot’s and not their own', () => {
    expect(
      dates(
        [
          mark(1, { expires: '2027-01-01' }),
          mark(2, { lotId: 1, expires: '2027-01-01' }),
          mark(3, { lotId: 1, expires: '2026-06-01' }),
          mark(4, { lotId: 1 })
        ],
        { id: 1, expires: '2028-01-01' }
      )
    ).toEqual([[2, '2028-01-01']]);
  });
  it('of the day it was made: its own expiry and that of its serials, where it was computed so', () => {
    const lot = mark(1, {
      made: '2026-01-01',
      expires: '2026-01-31',
      rule: 'computed',
      shelfLifeDays: 30
    });
    expect(
      dates([lot, mark(2, { ...lot, id: 2, lotId: 1 })], { id: 1, made: '2026-02-01' })
    ).toEqual([
      [1, '2026-03-03'],
      [2, '2026-03-03']
    ]);
    expect(dates([{ ...lot, expires: '2026-12-31' }], { id: 1, made: '2026-02-01' })).toEqual([]);
    expect(dates([lot], { id: 1, made: '2026-02-01', expires: '2027-01-01' })).toEqual([]);
  });
  it('through every level of what takes over the earliest of its components', () => {
    const kit = mark(10, { rule: 'components', expires: '2027-02-01', inputs: [1, 2] }),
      box = mark(20, { rule: 'components', expires: '2027-02-01', inputs: [10] });
    const marks = [
      box,
      kit,
      mark(1, { expires: '2027-02-01' }),
      mark(2, { expires: '2027-05-01' })
    ];
    expect(dates(marks, { id: 1, expires: '2027-03-01' })).toEqual([
      [10, '2027-03-01'],
      [20, '2027-03-01']
    ]);
    expect(dates(marks, { id: 1, expires: '2027-09-01' })).toEqual([
      [10, '2027-05-01'],
      [20, '2027-05-01']
    ]);
    expect(dates(marks, { id: 2, expires: '2027-09-01' })).toEqual([]);
    expect(dates(marks, { id: 1, expires: null })).toEqual([
      [10, '2027-05-01'],
      [20, '2027-05-01']
    ]);
  });
  it('not where somebody entered another, and it ends where goods loop', () => {
    expect(
      dates(
        [
          mark(1, { expires: '2027-01-01' }),
          mark(2, { rule: 'components', expires: '2030-01-01', inputs: [1] })
        ],
        { id: 1, expires: '2028-01-01' }
      )
    ).toEqual([]);
    const a = mark(2, { rule: 'components', expires: '2027-01-01', inputs: [1, 3] }),
      b = mark(3, { rule: 'components', expires: '2027-01-01', inputs: [2] });
    expect(
      followDates([mark(1, { expires: '2027-01-01' }), a, b], { id: 1, expires: '2026-06-01' }).map(
        (one) => one.to
      )
    ).toEqual(['2026-06-01', '2026-06-01']);
  });
});
