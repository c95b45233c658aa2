import { daysLater, isDay } from '../calendar/day.ts';
import { sayDay } from '../calendar/say-day.ts';
import type { Faults } from '../ledger/fault.ts';
import { shown } from '../numbers/number.ts';
import type { MarkingPlan } from './plan.ts';

export interface DatesGiven { made?: string; expires?: string; retest?: string }
export interface Dates { made: string | null; expires: string | null; retest: string | null }

interface Birth {
  /** Calendar day of the event at its site. */
  day: string;
  /** Made here, on that day; otherwise it came from outside. */
  madeHere: boolean;
  /** The earliest expiry of what it was made of, for plans that take it over. */
  earliestComponent: string | null;
}

/**
 * The dates of one new mark as its plan says: entered, computed or not kept. A computed date counts from the day the goods were made
 * where that is known, otherwise from the day of the event; one that is given goes before one that is computed.
 * Faults: date.missing (missing as the plan answers it; unreadable, or not kept by the plan, always).
 * @returns null after a fault that stops
 */
export function takeDates(plan: MarkingPlan, product: string, given: DatesGiven, birth: Birth, path: string, number: string | undefined, faults: Faults): Dates | null {
  let good = true;
  const madeGiven = read('made', 'day it was made', given.made, plan.made, () => null);
  const made = madeGiven ?? (birth.madeHere ? birth.day : null);
  const from = made ?? birth.day;
  if (madeGiven !== null && madeGiven > birth.day) {
    faults.add('date.missing', path, `${product} cannot have been made on ${sayDay(madeGiven)}, which is still to come. Check the day it was made.`, shown(given.made ?? ''));
    good = false;
  }
  const expires = plan.identity === 'none' ? null : read('expires', 'expiry', given.expires, plan.expires,
    () => plan.expires === 'computed' && plan.shelfLifeDays !== null ? daysLater(from, plan.shelfLifeDays) : plan.expires === 'components' ? birth.earliestComponent : null);
  const retest = read('retest', 'retest date', given.retest, plan.retest, () => plan.retest === 'computed' && plan.retestDays !== null ? daysLater(from, plan.retestDays) : null);
  return good ? { made, expires, retest } : null;

  function read(field: keyof DatesGiven, says: string, text: string | undefined, rule: 'entered' | 'if given' | 'computed' | 'components' | 'not kept', computed: () => string | null): string | null {
    const day = text?.trim() ?? '';
    if (day === '') {
      if (rule === 'entered' && !(field === 'made' && birth.madeHere) && !faults.answer(plan, 'date missing', path, `${product} needs its ${says}. Give it as year-month-day.`, number)) good = false;
      return computed();
    }
    if (!isDay(day)) {
      faults.add('date.missing', path, `“${shown(day)}” is no date. Give the ${says} as year-month-day, such as ${daysLater(birth.day, field === 'made' ? -30 : 365)}.`, shown(day));
      good = false;
      return null;
    }
    if (rule === 'not kept') {
      faults.note(path, `The plan of ${product} keeps no ${says}; ${sayDay(day)} is left out.`, number);
      return null;
    }
    return day;
  }
}
