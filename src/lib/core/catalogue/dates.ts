import { daysLater, isDay } from '../calendar/day.ts';
import { sayDay } from '../calendar/say-day.ts';
import type { Faults } from '../faults/fault.ts';
import { shown } from '../numbers/number.ts';
import type { MarkingPlan } from './plan.ts';

export interface DatesGiven {
  made?: string;
  expires?: string;
  retest?: string;
}
export interface Dates {
  made: string | null;
  expires: string | null;
  retest: string | null;
}

interface Birth {
  /** Calendar day of the event at its site. */
  day: string;
  /** Made here, on that day; otherwise it came from outside. */
  madeHere: boolean;
  /** The earliest expiry of what it was made of, for plans that take it over. */
  earliestComponent: string | null;
}

/**
 * The dates of one new mark as its plan says: entered, computed or not kept. A computed date counts
 * from the day the goods were made where that is known, otherwise from the day of the event; one
 * that is given goes before one that is computed.
 * Faults: date.missing (missing as the plan answers it; unreadable, or not kept by the plan,
 * always).
 * @returns null after a fault that stops
 */
export function takeDates(
  plan: MarkingPlan,
  product: string,
  given: DatesGiven,
  birth: Birth,
  path: string,
  number: string | undefined,
  faults: Faults
): Dates | null {
  if (
    !given.made &&
    !given.expires &&
    !given.retest &&
    !birth.madeHere &&
    FILLS_NOTHING.has(plan.expires) &&
    FILLS_NOTHING.has(plan.made) &&
    FILLS_NOTHING.has(plan.retest)
  )
    return NONE;
  const asking: Asking = { plan, product, birth, path, number, faults };
  const madeGiven = readDate(
    asking,
    'made',
    given.made,
    birth.madeHere && plan.made === 'entered' ? 'if given' : plan.made
  );
  const made = madeGiven ?? (birth.madeHere ? birth.day : null);
  if (typeof madeGiven === 'string' && madeGiven > birth.day) {
    faults.add(
      'date.missing',
      path,
      `${product} cannot have been made on ${sayDay(madeGiven)}, which is still to come. Check the day it was made.`,
      shown(given.made ?? '')
    );
    return null;
  }
  const from = made || birth.day;
  const expires =
    plan.identity === 'none' ? null : readDate(asking, 'expires', given.expires, plan.expires);
  const retest = readDate(asking, 'retest', given.retest, plan.retest);
  if (made === false || expires === false || retest === false) return null;
  return {
    made,
    expires: expires ?? computedExpiry(plan, from, birth),
    retest:
      retest ??
      (plan.retest === 'computed' && plan.retestDays !== null
        ? daysLater(from, plan.retestDays)
        : null)
  };
}

function computedExpiry(plan: MarkingPlan, from: string, birth: Birth): string | null {
  if (plan.identity === 'none') return null;
  if (plan.expires === 'components') return birth.earliestComponent;
  return plan.expires === 'computed' && plan.shelfLifeDays !== null
    ? daysLater(from, plan.shelfLifeDays)
    : null;
}

/** Rules by which nothing given is nothing kept. */
const FILLS_NOTHING: ReadonlySet<string> = new Set(['if given', 'not kept']);
const NONE: Dates = Object.freeze({ made: null, expires: null, retest: null });

interface Asking {
  plan: MarkingPlan;
  product: string;
  birth: Birth;
  path: string;
  number: string | undefined;
  faults: Faults;
}
const SAYS: Record<keyof DatesGiven, string> = {
  made: 'day it was made',
  expires: 'expiry',
  retest: 'retest date'
};

/** A date that was given; null where none was, false after a fault that stops. */
function readDate(
  { plan, product, birth, path, number, faults }: Asking,
  field: keyof DatesGiven,
  text: string | undefined,
  rule: MarkingPlan['expires']
): string | null | false {
  const day = text?.trim() ?? '';
  if (day === '') {
    if (rule !== 'entered') return null;
    return faults.answer(
      plan,
      'date missing',
      path,
      `${product} needs its ${SAYS[field]}. Give it as year-month-day.`,
      number
    )
      ? null
      : false;
  }
  if (!isDay(day)) {
    faults.add(
      'date.missing',
      path,
      `“${shown(day)}” is no date. Give the ${SAYS[field]} as year-month-day, such as ${daysLater(birth.day, field === 'made' ? -30 : 365)}.`,
      shown(day)
    );
    return false;
  }
  if (rule !== 'not kept') return day;
  faults.note(
    path,
    `The plan of ${product} keeps no ${SAYS[field]}; ${sayDay(day)} is left out.`,
    number
  );
  return null;
}
