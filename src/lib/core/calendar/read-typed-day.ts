import { addDays, addMonths, addWeeks, addYears, format, lastDayOfMonth, parseISO } from 'date-fns';
import { isDay, type Day } from './day.ts';
import { readDay } from './read-day.ts';
import { wholeYear } from './whole-year.ts';

interface Meant {
  /** `YYYY-MM-DD`; decides the century of two-digit years, and what `+14` counts from. */
  today: Day;
  /** A month alone means its last day, as on goods that expire. */
  monthEnds?: boolean;
}

const MONTHS = ['JAN', 'FEB', 'MAR', 'APR', 'MAY', 'JUN', 'JUL', 'AUG', 'SEP', 'OCT', 'NOV', 'DEC'];
const LATER = { d: addDays, w: addWeeks, m: addMonths, y: addYears } as const;
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
    readDay(given) ??
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
  return isDay(yearFirst) ? yearFirst : dayOrNull(yearOf(year, today), month!, day!);
}

function readShortYear(given: string, today: Day): Day | null {
  const [, day, month, year] =
    /^(\d{1,2})[-/. ]+(\d{1,2}|[A-Z]{3,9}\.?)[-/. ,]+'?(\d\d)$/.exec(given) ??
    /^(\d{1,2})([A-Z]{3,9})(\d\d)$/.exec(given) ??
    [];
  return year ? dayOrNull(yearOf(year, today), month!, day!) : null;
}

/** `today`, and so many days, weeks, months or years from it. */
function readDistance(given: string, today: Day): Day | null {
  const [, sign, count, unit] = /^([+-])(\d{1,4}) ?([DWMY]?)$/.exec(given) ?? [];
  if (count === undefined) {
    const days = FROM_TODAY[given];
    return days === undefined ? null : asDay(addDays(parseISO(today), days));
  }
  const later = LATER[(unit || 'D').toLowerCase() as keyof typeof LATER];
  return asDay(later(parseISO(today), Number(`${sign}${count}`)));
}

/** The last day of a month. */
function readMonth(given: string, today: Day): Day | null {
  const yearFirst = /^(\d{4})[-/.](\d{1,2})$/.exec(given);
  const [, month, year] = yearFirst
    ? [null, yearFirst[2], yearFirst[1]]
    : (/^(\d{1,2}|[A-Z]{3,9}\.?)[-/. ]*'?(\d\d|\d{4})$/.exec(given) ?? []);
  // Digits alone without a separator would be a guess.
  if (!year || /^\d+$/.test(given)) return null;
  const first = dayOrNull(yearOf(year, today), month!, '1');
  return first && asDay(lastDayOfMonth(parseISO(first)));
}

const yearOf = (year: string, today: Day): number =>
  year.length === 4 ? Number(year) : wholeYear(Number(year), today);

function dayOrNull(year: number, month: string, day: string): Day | null {
  const named = MONTHS.indexOf(month.slice(0, 3)) + 1;
  const number = /^\d/.test(month) ? month : String(named);
  const iso = `${year}-${number.padStart(2, '0')}-${day.padStart(2, '0')}`;
  return isDay(iso) ? iso : null;
}

const asDay = (date: Date): Day => format(date, 'yyyy-MM-dd');
