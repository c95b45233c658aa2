import { capital } from '../capital.ts';
import { isDay } from '../calendar/day.ts';
import type { Faults } from '../faults/fault.ts';
import { shown } from '../numbers/number.ts';
import { isQuantity, quantity } from '../quantity/quantity.ts';
import type { FactAsked, MarkingPlan } from './plan.ts';

/** A fact as it is kept on a mark: the value as text, and the unit its plan had on that day. */
export interface FactValue {
  value: string;
  unit?: string;
}
export type FactValues = Readonly<Record<string, FactValue>>;

/** Facts in words: `arrival temperature 4.5 °C`. */
export const sayFacts = (facts: FactValues): string[] =>
  Object.entries(facts).map(([name, value]) => `${name} ${sayFact(value)}`);
export const sayFact = ({ value, unit }: FactValue): string => (unit ? `${value} ${unit}` : value);

const LONGEST = 200;
export const factKey = (name: string): string => name.trim().toUpperCase();

/** The fact that says which revision a part is; null where it has none. */
export const revisionOf = (facts: FactValues): string | null =>
  Object.entries(facts).find(([name]) => factKey(name) === factKey('revision'))?.[1].value ?? null;

type Reading = { ok: true; value: string } | { ok: false; why: string };

/** Reads a fact's value as its kind says. Numbers keep the digits they were given with. */
export function readFact(fact: FactAsked, text: string): Reading {
  const given = text.trim();
  switch (fact.kind) {
    case 'number':
      return !isQuantity(given)
        ? { ok: false, why: 'it is no plain number such as 4.5' }
        : { ok: true, value: given };
    case 'date':
      return isDay(given)
        ? { ok: true, value: given }
        : { ok: false, why: 'it is no date; give year-month-day' };
    case 'yes/no': {
      const answer = { YES: 'yes', Y: 'yes', TRUE: 'yes', NO: 'no', N: 'no', FALSE: 'no' }[
        given.toUpperCase()
      ];
      return answer ? { ok: true, value: answer } : { ok: false, why: 'it must be yes or no' };
    }
    case 'choice': {
      const choice = fact.choices.find((one) => factKey(one) === factKey(given));
      return choice === undefined
        ? { ok: false, why: `it must be one of: ${fact.choices.join(', ')}` }
        : { ok: true, value: choice };
    }
    case 'text':
      return given.length > LONGEST
        ? { ok: false, why: `it has ${given.length} characters and ${LONGEST} are the most` }
        : { ok: true, value: given };
  }
}

/**
 * Decimals of up to fifteen digits keep their order as floating-point numbers; longer ones are
 * compared exactly.
 */
const less = (a: string, b: string): boolean =>
  a.length <= 15 && b.length <= 15 ? Number(a) < Number(b) : quantity(a).lt(b);

/** Why a good value lies outside a fact's limits; null where it does not. */
export function outsideLimits(fact: FactAsked, value: string): string | null {
  if (fact.kind !== 'number') return null;
  const unit = fact.unit ? ` ${fact.unit}` : '';
  if (fact.least !== null && less(value, fact.least))
    return `below the least, ${fact.least}${unit}`;
  if (fact.most !== null && less(fact.most, value)) return `above the most, ${fact.most}${unit}`;
  return null;
}

/**
 * Takes the facts a plan asks for on one new mark.
 * Faults: fact.missing (missing where required, unreadable, not asked for), mark.off-spec (outside
 * its limits), answered as the plan says.
 * @returns the facts to keep; null after a fault that stops
 */
export function takeFacts(
  plan: MarkingPlan,
  product: string,
  given: Readonly<Record<string, string>> | undefined,
  path: string,
  number: string | undefined,
  faults: Faults
): FactValues | null {
  // Most bookings ask for none and give none; ten thousand rows of them should cost nothing.
  if (plan.facts.length === 0 && given === undefined) return NONE;
  const values: Record<string, FactValue> = {};
  let taken = 0;
  let good = true;
  for (const fact of plan.facts) {
    const name = nameGiven(given, fact.name);
    const text = name === null ? undefined : given![name];
    if (name !== null) taken++;
    if (text === undefined || text.trim() === '') {
      if (
        fact.required &&
        !faults.answer(
          plan,
          'fact missing',
          path,
          `${product} needs its ${fact.name}${fact.unit ? ` in ${fact.unit}` : ''}. Give it in this row.`,
          number
        )
      )
        good = false;
      continue;
    }
    const reading = readFact(fact, text);
    if (!reading.ok) {
      faults.add(
        'fact.missing',
        path,
        `${capital(fact.name)} “${shown(text)}” of ${product} cannot be kept: ${reading.why}.`,
        number
      );
      good = false;
      continue;
    }
    const outside = outsideLimits(fact, reading.value);
    if (
      outside !== null &&
      !faults.answer(
        plan,
        'off limits',
        path,
        `${capital(fact.name)} ${reading.value}${fact.unit ? ` ${fact.unit}` : ''} of ${product} is ${outside}. Measure again, or hold the goods.`,
        number
      )
    )
      good = false;
    values[fact.name] = fact.unit
      ? { value: reading.value, unit: fact.unit }
      : { value: reading.value };
  }
  if (given !== undefined && taken < Object.keys(given).length)
    for (const [name, text] of Object.entries(given)) {
      if (text.trim() === '' || plan.facts.some((fact) => factKey(fact.name) === factKey(name)))
        continue;
      faults.add(
        'fact.missing',
        path,
        `The plan of ${product} asks for no fact “${shown(name)}”${plan.facts.length > 0 ? `; it asks for ${plan.facts.map((fact) => fact.name).join(', ')}` : ''}. Leave it out, or add it to the plan.`,
        shown(name)
      );
      good = false;
    }
  return good ? values : null;
}

/**
 * How a fact is called in what was given: exactly so, or without regard to capitals and spaces
 * round it.
 */
function nameGiven(
  given: Readonly<Record<string, string>> | undefined,
  name: string
): string | null {
  if (given === undefined) return null;
  if (given[name] !== undefined) return name;
  return Object.keys(given).find((one) => factKey(one) === factKey(name)) ?? null;
}

const NONE: FactValues = Object.freeze({});
