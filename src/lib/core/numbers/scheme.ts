import { getDayOfYear, getISOWeek, getISOWeekYear } from 'date-fns';
import { LONGEST_NUMBER } from './number.ts';
import { checkCharacter, type CheckMethod } from './check-character.ts';

/**
 * One part of a number. Dates are of the day the number is made; the counter counts within the
 * scheme's period.
 */
export type Segment =
  | { kind: 'text'; text: string }
  | { kind: 'site' }
  | { kind: 'product' }
  | { kind: 'shift' }
  | { kind: 'year'; digits: 2 | 4 }
  | { kind: 'week' }
  | { kind: 'day-of-year' }
  | { kind: 'date' }
  | { kind: 'counter'; width: number; letters: boolean }
  | { kind: 'check'; method: CheckMethod };

export type Period = 'never' | 'year' | 'month' | 'week' | 'day';

/** A numbering scheme: ordered segments, and when its counter begins again. */
export interface Scheme {
  segments: readonly Segment[];
  reset: Period;
}

/** What a number is made of beside the counter: `day` is `YYYY-MM-DD`, `shift` one letter. */
export interface Occasion {
  site: string;
  product: string;
  day: string;
  shift: string;
}

/** Digits and letters nobody mistakes for one another: without 0 O 1 I L U. */
export const CLEAR_ALPHABET = '23456789ABCDEFGHJKMNPQRSTVWXYZ';

/**
 * The most characters a lot or serial may have in a GS1 symbol (General Specifications 7.11, quoted
 * from memory in the design).
 */
export const GS1_LONGEST = 20;
/** GS1 AI encodable character set 82: letters, digits and these signs. */
const GS1_SET_82 = /^[!"%&'()*+,\-./0-9:;<=>?A-Z_a-z]*$/;

export type Numbered = { ok: true; number: string } | { ok: false; why: string };

/** The most a counter may be told to go on from. */
export const MOST_COUNT = 999_999_999_999_999;

/** What each segment of a scheme gives for one count (from 1) on one occasion, in their order. */
export function makeParts(
  scheme: Scheme,
  occasion: Occasion,
  count: number
): { ok: true; parts: string[] } | { ok: false; why: string } {
  const parts: string[] = [];
  for (const segment of scheme.segments) {
    const part = makePart(segment, occasion, count, parts.join(''));
    if (!part.ok) return part;
    parts.push(part.number);
  }
  return { ok: true, parts };
}

/** The number of a scheme for one count (from 1) on one occasion. */
export function makeNumber(scheme: Scheme, occasion: Occasion, count: number): Numbered {
  const made = makeParts(scheme, occasion, count);
  if (!made.ok) return made;
  const number = made.parts.join('');
  if (number.trim() !== number || number === '')
    return { ok: false, why: 'it would begin or end with a space, or be empty' };
  if (number.length > LONGEST_NUMBER)
    return {
      ok: false,
      why: `it would have ${number.length} characters and ${LONGEST_NUMBER} are the most`
    };
  return { ok: true, number };
}

function makePart(
  segment: Segment,
  { site, product, day, shift }: Occasion,
  count: number,
  before: string
): Numbered {
  const [year, month, date] = day.split('-').map(Number) as [number, number, number];
  const padded = (value: number, width: number): Numbered => ({
    ok: true,
    number: String(value).padStart(width, '0')
  });
  switch (segment.kind) {
    case 'text':
      return { ok: true, number: segment.text };
    case 'site':
      return { ok: true, number: site };
    case 'product':
      return { ok: true, number: product };
    case 'shift':
      return { ok: true, number: shift };
    case 'year':
      return { ok: true, number: day.slice(segment.digits === 2 ? 2 : 0, 4) };
    case 'week':
      return padded(getISOWeek(new Date(year, month - 1, date)), 2);
    case 'day-of-year':
      return padded(getDayOfYear(new Date(year, month - 1, date)), 3);
    case 'date':
      return { ok: true, number: day.slice(2).replaceAll('-', '') };
    case 'counter':
      return makeCounter(count, segment);
    case 'check': {
      const character = checkCharacter(before, segment.method);
      return character === null
        ? {
            ok: false,
            why: `its check character needs ${segment.method === 'mod37-36' ? 'a letter or digit' : 'digits only'} before it, and there is “${before}”`
          }
        : { ok: true, number: character };
    }
  }
}

function makeCounter(
  count: number,
  { width, letters }: { width: number; letters: boolean }
): Numbered {
  const base = letters ? CLEAR_ALPHABET : '0123456789';
  let text = '';
  for (let rest = count; rest > 0; rest = Math.floor(rest / base.length))
    text = base[rest % base.length] + text;
  if (text.length > width)
    return {
      ok: false,
      why: `its counter of ${width} places is full: ${count} does not fit. Make it wider, or begin anew`
    };
  return { ok: true, number: text.padStart(width, base[0]) };
}

/** The period a day belongs to, as text: the counter begins again when it changes. */
export function periodOf(reset: Period, day: string): string {
  const [year, month, date] = day.split('-').map(Number) as [number, number, number];
  switch (reset) {
    case 'never':
      return '';
    case 'year':
      return day.slice(0, 4);
    case 'month':
      return day.slice(0, 7);
    case 'week': {
      const at = new Date(year, month - 1, date);
      return `${getISOWeekYear(at)}-W${String(getISOWeek(at)).padStart(2, '0')}`;
    }
    case 'day':
      return day;
  }
}

/** What is wrong with a scheme as such, in sentences; empty where nothing is. */
export function schemeFaults(scheme: Scheme): string[] {
  const faults: string[] = [];
  const counters = scheme.segments.filter((segment) => segment.kind === 'counter').length;
  if (counters !== 1)
    faults.push(
      counters === 0
        ? 'It needs a counter, or two numbers of one day would be the same.'
        : 'It has more than one counter; one is enough.'
    );
  const has = (kind: Segment['kind']) => scheme.segments.some((segment) => segment.kind === kind);
  const dated = has('date') || (has('year') && has('day-of-year'));
  if (scheme.reset === 'day' && !dated)
    faults.push(
      'Its counter begins anew every day, so the number must hold the date (or year and day of year).'
    );
  if (scheme.reset === 'week' && !(dated || (has('year') && has('week'))))
    faults.push(
      'Its counter begins anew every week, so the number must hold year and week, or the date.'
    );
  if (scheme.reset === 'month' && !dated)
    faults.push(
      'Its counter begins anew every month, so the number must hold the date (or year and day of year).'
    );
  if (scheme.reset === 'year' && !has('year') && !has('date'))
    faults.push('Its counter begins anew every year, so the number must hold the year.');
  if (
    scheme.segments.some(
      (segment) => segment.kind === 'text' && !/^[\x20-\x7e]*$/.test(segment.text)
    )
  )
    faults.push('Its text holds a character that cannot be printed as a symbol.');
  const check = scheme.segments.findIndex((segment) => segment.kind === 'check');
  if (check >= 0 && check < scheme.segments.length - 1)
    faults.push('The check character must be the last part.');
  return faults;
}

/** Why a number would not fit a GS1 symbol; null where it does. */
export function gs1Misfit(number: string): string | null {
  if (number.length > GS1_LONGEST)
    return `${number.length} characters; a GS1 symbol carries ${GS1_LONGEST} of a lot or serial`;
  if (!GS1_SET_82.test(number)) return 'it holds a character outside GS1’s set of 82';
  return null;
}

/** The shift of an hour of the day, 0 to 23: A from 6, B from 14, C from 22. */
export const shiftOf = (hour: number): string =>
  hour >= 6 && hour < 14 ? 'A' : hour >= 14 && hour < 22 ? 'B' : 'C';
