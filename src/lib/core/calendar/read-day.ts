import type { Day } from './day.ts';
import { dayOfParts } from './day-of-parts.ts';

/**
 * Reads a date as people and spreadsheets write it: `2027-03-12`, `2027/3/12`, `12 Mar 2027`, and
 * day first `12/03/2027` or `12.3.2027`.
 * Years have four digits: a two-digit year is a guess that cannot be mended later.
 * @returns the day, or null where it is none of these or no day of the calendar
 */
export function readDay(text: string): Day | null {
  const given = text.trim();
  const yearFirst = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})$/.exec(given);
  const dayFirst = /^(\d{1,2})[-/. ]+(\d{1,2})[-/. ]+(\d{4})$/.exec(given);
  const named = /^(\d{1,2})[-/. ]*([A-Za-z]{3})[a-z]*\.?[-/. ,]*(\d{4})$/.exec(given);
  const [year, month, day] = yearFirst
    ? [yearFirst[1], yearFirst[2], yearFirst[3]]
    : dayFirst
      ? [dayFirst[3], dayFirst[2], dayFirst[1]]
      : named
        ? [named[3], named[2], named[1]]
        : [];
  return year ? dayOfParts(year, month!, day!) : null;
}
