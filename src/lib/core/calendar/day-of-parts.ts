import { isDay, type Day } from './day.ts';

const MONTHS = ['JAN', 'FEB', 'MAR', 'APR', 'MAY', 'JUN', 'JUL', 'AUG', 'SEP', 'OCT', 'NOV', 'DEC'];

/**
 * The day of a year, a month and a day as they were written.
 * @param month in digits, or a name of which the first three letters count
 * @returns the day, or null where the calendar has none
 */
export function dayOfParts(year: string, month: string, day: string): Day | null {
  const named = MONTHS.indexOf(month.slice(0, 3).toUpperCase()) + 1;
  const number = /^\d/.test(month) ? month : String(named);
  const iso = `${year}-${number.padStart(2, '0')}-${day.padStart(2, '0')}`;
  return isDay(iso) ? iso : null;
}
