import { daysLater, isDay, monthsLater, type Day } from './day.ts';
import { dayOfParts } from './day-of-parts.ts';
import { readDay } from './read-day.ts';
import { wholeYear } from './whole-year.ts';

interface Meant {
  /** `YYYY-MM-DD`; decides the century of two-digit years, and what `+14` counts from. */
  today: Day;
  /** A month alone means its last day, as on goods that expire. */
  monthEnds?: boolean;
}

const LATER: Record<string, (day: Day, count: number) => Day> = {
  D: daysLater,
  W: (day, weeks) => daysLater(day, weeks * 7),
  M: monthsLater,
  Y: (day, years) => monthsLater(day, years * 12)
};
const FROM_TODAY: Record<string, number> = { TODAY: 0, TOMORROW: 1, YESTERDAY: -1 };

/**
 * Reads a day as somebody types it, who sees at once how it was read: what files may hold
 * (`readDay`), and besides `31 dec 27`, `31.12.27`, `311227`, `31122027`, `20271231`, `today`,
 * `+14` or `+6m`; day before month wherever both are numbers. Where a month means its end also
 * `12/2027`, `12/27`, `dec 27` and `2027-12`.
 * @returns the day, or null where it is none of these or no day of the calendar
 */
export function readTypedDay(text: string, { today, monthEnds = false }: Meant): Day | null {
  const given = text.trim().toUpperCase();
  return (
    readDay(text.toLowerCase()) ??
    readRun(given, today) ??
    readShortYear(given, today) ??
    readDistance(given, today) ??
    (monthEnds ? readMonth(given, today) : null)
  );
}

/** Digits in one run: day, month and year of two or four digits, or year first as in ISO 8601. */
function readRun(given: string, today: Day): Day | null {
  const [, day, month, year] = /^(\d\d)(\d\d)(\d\d|\d{4})$/.exec(given) ?? [];
  if (!year) return null;
  const yearFirst = `${given.slice(0, 4)}-${given.slice(4, 6)}-${given.slice(6)}`;
  return isDay(yearFirst) ? yearFirst : dayOfParts(yearOf(year, today), month!, day!);
}

function readShortYear(given: string, today: Day): Day | null {
  const [, day, month, year] =
    /^(\d{1,2})[-/. ]+(\d{1,2}|[A-Z]{3,9}\.?)[-/. ,]+'?(\d\d)$/.exec(given) ??
    /^(\d{1,2})([A-Z]{3,9})(\d\d)$/.exec(given) ??
    [];
  return year ? dayOfParts(yearOf(year, today), month!, day!) : null;
}

/** `today`, and so many days, weeks, months or years from it. */
function readDistance(given: string, today: Day): Day | null {
  const [, sign, count, unit] = /^([+-])(\d{1,4}) ?([DWMY]?)$/.exec(given) ?? [];
  if (count === undefined) {
    const days = FROM_TODAY[given];
    return days === undefined ? null : daysLater(today, days);
  }
  return LATER[unit || 'D']!(today, Number(`${sign}${count}`));
}

/** The last day of a month. */
function readMonth(given: string, today: Day): Day | null {
  const yearFirst = /^(\d{4})[-/.](\d{1,2})$/.exec(given);
  const [, month, year] = yearFirst
    ? [null, yearFirst[2], yearFirst[1]]
    : (/^(\d{1,2}|[A-Z]{3,9}\.?)[-/. ]*'?(\d\d|\d{4})$/.exec(given) ?? []);
  // Digits alone without a separator would be a guess.
  if (!year || /^\d+$/.test(given)) return null;
  const first = dayOfParts(yearOf(year, today), month!, '1');
  return first && daysLater(monthsLater(first, 1), -1);
}

const yearOf = (year: string, today: Day): string =>
  year.length === 4 ? year : String(wholeYear(Number(year), today));
