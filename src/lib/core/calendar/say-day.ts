import { daysBetween, type Day } from './day.ts';

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** `2027-03-12` → `12 Mar 2027`. */
export const sayDay = (day: Day): string =>
  `${Number(day.slice(8))} ${MONTHS[Number(day.slice(5, 7)) - 1]} ${day.slice(0, 4)}`;

/** `12 Mar` within the year of `today`, otherwise with its year. */
export const sayDayShort = (day: Day, today: Day): string =>
  day.slice(0, 4) === today.slice(0, 4) ? sayDay(day).slice(0, -5) : sayDay(day);

/**
 * How far a day is from today, in the unit a person would use: `today`, `in 9 days`, `9 months
 * ago`.
 */
export function sayDistance(day: Day, today: Day): string {
  const days = daysBetween(today, day);
  if (days === 0) return 'today';
  if (days === 1) return 'tomorrow';
  if (days === -1) return 'yesterday';
  const n = Math.abs(days);
  const [count, unit] =
    n < 14
      ? [n, 'day']
      : n < 61
        ? [Math.round(n / 7), 'week']
        : n < 730
          ? [Math.round(n / 30.44), 'month']
          : [Math.round(n / 365.25), 'year'];
  const words = `${count} ${unit}${count === 1 ? '' : 's'}`;
  return days > 0 ? `in ${words}` : `${words} ago`;
}
