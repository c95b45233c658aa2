import { addDays, addMonths, getDaysInMonth } from 'date-fns';

/** A date without a time, `YYYY-MM-DD`. */
export type Day = string;

const asDate = (day: Day) => {
  const [year, month, date] = day.split('-').map(Number) as [number, number, number];
  return new Date(year, month - 1, date);
};
const asDay = (date: Date): Day =>
  `${String(date.getFullYear()).padStart(4, '0')}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`;

/** Whether the text is a real date of the calendar. */
export function isDay(text: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text) || text < '1900') return false;
  const [year, month, day] = [
    Number(text.slice(0, 4)),
    Number(text.slice(5, 7)),
    Number(text.slice(8))
  ];
  // Every month has 28 days and all but February 30: only the last few need the calendar.
  return (
    month >= 1 &&
    month <= 12 &&
    day >= 1 &&
    (day <= 28 || (day <= 30 && month !== 2) || day <= getDaysInMonth(new Date(year, month - 1, 1)))
  );
}

/** The day that many days later; negative goes back. */
export function daysLater(day: Day, days: number): Day {
  if (day !== last.day || days !== last.days)
    last = { day, days, result: asDay(addDays(asDate(day), days)) };
  return last.result;
}
/** Ten thousand rows of one receipt ask for the same day. */
let last = { day: '', days: 0, result: '' };

/**
 * The same day of the month that many months later, or the month's last day where it has no such
 * day.
 */
export const monthsLater = (day: Day, months: number): Day => asDay(addMonths(asDate(day), months));

/** Whole days from one day to another; negative when the second is earlier. */
export const daysBetween = (from: Day, to: Day): number =>
  Math.round((asDate(to).getTime() - asDate(from).getTime()) / 86_400_000);

/** Making a formatter takes longer than a whole decision: one for each zone. */
const formatters = new Map<string, Intl.DateTimeFormat>();

/** The zone the company keeps its days in, where no site says another. */
export const HOME_ZONE = 'Europe/London';

/** The calendar day of an instant in a time zone such as `Europe/London`. */
export function dayOf(instant: Date, zone: string): Day {
  let formatter = formatters.get(zone);
  if (!formatter)
    formatters.set(
      zone,
      (formatter = new Intl.DateTimeFormat('en-CA', {
        timeZone: zone,
        year: 'numeric',
        month: '2-digit',
        day: '2-digit'
      }))
    );
  return formatter.format(instant);
}
