import { expect, it } from 'vitest';
import { sayDay, sayDayShort, sayDistance } from './say-day.ts';

it('says days the way people do', () => {
  expect(sayDay('2027-03-02')).toBe('2 Mar 2027');
  expect(sayDayShort('2026-03-02', '2026-11-23')).toBe('2 Mar');
  expect(sayDayShort('2025-03-02', '2026-11-23')).toBe('2 Mar 2025');
});

it('says distances in the unit that fits', () => {
  const today = '2026-11-23';
  expect(
    [
      ['2026-11-23'],
      ['2026-11-24'],
      ['2026-11-22'],
      ['2026-12-02'],
      ['2026-12-23'],
      ['2027-08-23'],
      ['2031-11-23'],
      ['2026-05-23']
    ].map(([day]) => sayDistance(day!, today))
  ).toEqual([
    'today',
    'tomorrow',
    'yesterday',
    'in 9 days',
    'in 4 weeks',
    'in 9 months',
    'in 5 years',
    '6 months ago'
  ]);
});
