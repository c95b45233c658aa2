import { dayOf, type Day } from '../calendar/day.ts';
import { sayDay } from '../calendar/say-day.ts';
import type { Language } from './language.ts';

/** A day as a paper of the language says it: `12 Mar 2027`, `12. März 2027`. */
export const sayDayIn = (day: Day, language: Language): string =>
  language === 'en' ? sayDay(day) : DAYS[language].format(new Date(`${day}T00:00:00Z`));

const daysOf = (language: Language): Intl.DateTimeFormat =>
  new Intl.DateTimeFormat(language, {
    ...{ day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' }
  });
const DAYS = { de: daysOf('de'), fr: daysOf('fr'), es: daysOf('es') };

/** An instant as a paper of the language says it, in the site's zone; hours are of 24. */
export function sayInstantIn(at: Date, zone: string, language: Language): string {
  const clock = new Intl.DateTimeFormat('en-GB', {
    ...{ timeZone: zone, hour: '2-digit', minute: '2-digit' }
  });
  return `${sayDayIn(dayOf(at, zone), language)}, ${clock.format(at)}`;
}

/**
 * A decimal as a paper of the language writes it: with a comma, where that is the decimal sign.
 * Text that is no plain decimal stays as it is.
 */
export const sayNumberIn = (text: string, language: Language): string =>
  language === 'en' || !/^-?\d+\.\d+$/.test(text) ? text : text.replace('.', ',');
