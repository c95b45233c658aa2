import { dayOf, HOME_ZONE } from '../../core/calendar/day.ts';
import { sayDay } from '../../core/calendar/say-day.ts';

const grouped = /\B(?=(\d{3})+(?!\d))/g;

/** A decimal string with thousands set apart by a thin space: `12500.5` → `12 500.5`. */
export const sayQuantity = (text: string): string => {
  const [whole = '', part] = text.split('.');
  const spaced = whole.length > 4 ? whole.replace(grouped, '\u2009') : whole;
  return part === undefined ? spaced : `${spaced}.${part}`;
};

/** How much, with its unit: `12 500.5 kg`. No line ends between the two. */
export const sayAmount = (quantity: string, unit: string): string =>
  `${sayQuantity(quantity)}\u00a0${unit}`;

/** The same in a sentence that counts: pieces are counted bare, a measure has its unit. */
export const sayCounted = (quantity: string, unit: string): string =>
  unit === 'each' ? sayQuantity(quantity) : sayAmount(quantity, unit);

/** An instant in the site's zone: `12 Mar 2027, 09:05`. */
export const sayInstant = (iso: string, zone = HOME_ZONE): string =>
  `${sayDay(dayOf(new Date(iso), zone))}, ${sayTime(iso, zone)}`;
export const sayTime = (iso: string, zone = HOME_ZONE): string =>
  new Intl.DateTimeFormat('en-GB', { timeZone: zone, hour: '2-digit', minute: '2-digit' }).format(
    new Date(iso)
  );
export const dayOfInstant = (iso: string, zone = HOME_ZONE): string => dayOf(new Date(iso), zone);

/** `1 lot`, `3 lots`. */
export const count = (n: number, one: string, many = `${one}s`): string =>
  `${sayQuantity(String(n))} ${n === 1 ? one : many}`;

/** Words as they are said: `A, B or C`. */
export const listOf = (words: readonly string[], last: 'and' | 'or'): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} ${last} ${words.at(-1)!}`;

/** The first of a list by name, and how many more there are: `A, B, C and 4 more`. */
export const fewOf = (names: readonly string[], most: number): string =>
  names.length > most
    ? `${names.slice(0, most).join(', ')} and ${names.length - most} more`
    : names.join(', ');
