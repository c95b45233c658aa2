import { describe, expect, it } from 'vitest';
import { dayOf, daysBetween, daysLater, isDay, monthsLater } from './day.ts';

describe('days', () => {
  // Practice: three weeks after Friday 22 January 2021 is Friday 12 February 2021.
  it('add a shelf life in weeks', () => expect(daysLater('2021-01-22', 21)).toBe('2021-02-12'));
  // ISO 8601 calendar: 2024 is a leap year, 2023 and 2100 are not.
  it('cross month ends and leap days', () => {
    expect(daysLater('2024-02-28', 1)).toBe('2024-02-29');
    expect(daysLater('2023-02-28', 1)).toBe('2023-03-01');
    expect(monthsLater('2024-02-29', 12)).toBe('2025-02-28');
    expect(monthsLater('2026-08-31', 6)).toBe('2027-02-28');
    expect(daysBetween('2026-03-28', '2026-03-30')).toBe(2);
  });
  it('know what is no date', () => {
    expect(isDay('2026-02-30')).toBe(false);
    expect(isDay('2100-02-29')).toBe(false);
    expect(isDay('2024-02-29')).toBe(true);
    expect(isDay('26-1-1')).toBe(false);
  });
  it('are those of the site, not of the server', () => {
    expect(dayOf(new Date('2026-07-01T23:30:00Z'), 'Europe/London')).toBe('2026-07-02');
    expect(dayOf(new Date('2026-12-01T23:30:00Z'), 'Europe/London')).toBe('2026-12-01');
  });
});
