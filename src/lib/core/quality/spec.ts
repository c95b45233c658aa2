import { isQuantity, quantity } from '../quantity/quantity.ts';
import { LIMITS_IN_ENGLISH, type LimitWords } from './limit-words.ts';

export const LIMIT_KINDS = ['number', 'choice', 'yes/no', 'text'] as const;
export type LimitKind = (typeof LIMIT_KINDS)[number];

/**
 * One characteristic and what it must be. Bounds are decimal strings in its unit and include
 * themselves.
 */
export interface Limit {
  name: string;
  kind: LimitKind;
  unit: string;
  least: string | null;
  most: string | null;
  /**
   * For a choice: the answers that conform; for yes/no: the one that does. Of a text everything
   * does.
   */
  good: readonly string[];
  /** Answers a choice may have at all. */
  choices: readonly string[];
  required: boolean;
}
export interface Spec {
  limits: readonly Limit[];
  /** Whether a result outside them holds the mark at once. */ holdOnFail: boolean;
  /** Days after a test when it is due again; null: never. */ retestDays: number | null;
  /** How many to take as a sample, in words: `3 of each lot`. */ sampling: string;
}
export const NO_SPEC: Spec = { limits: [], holdOnFail: false, retestDays: null, sampling: '' };

export interface Result {
  name: string;
  value: string;
  unit: string;
}
export interface Judged {
  limit: Limit;
  result: Result | null;
  verdict: Verdict;
  /** Why it does not conform, or what is missing. */ why: string;
}

const fold = (text: string): string => text.trim().toUpperCase();

/** A customer's limits go before the product's of the same name; the rest of both count. */
export function specFor(product: Spec | null, customer: Spec | null): Spec | null {
  if (!product || !customer) return product ?? customer;
  const own = new Map(customer.limits.map((limit) => [fold(limit.name), limit]));
  return {
    ...product,
    limits: [
      ...product.limits.map((limit) => own.get(fold(limit.name)) ?? limit),
      ...customer.limits.filter(
        (limit) => !product.limits.some((one) => fold(one.name) === fold(limit.name))
      )
    ]
  };
}

/** What is wrong with a spec, in sentences; empty where it can be kept. */
export function specFaults(spec: Spec): string[] {
  const faults: string[] = [];
  const seen = new Set<string>();
  for (const limit of spec.limits) {
    const name = limit.name.trim();
    if (name === '') {
      faults.push('A characteristic has no name. Name it, such as “buoyancy”.');
      continue;
    }
    if (seen.has(fold(name))) faults.push(`“${name}” stands twice. Take one out.`);
    seen.add(fold(name));
    if (limit.kind === 'number') {
      for (const bound of [limit.least, limit.most])
        if (bound !== null && !isQuantity(bound))
          faults.push(`“${bound}” is no bound of ${name}: give a plain number.`);
      if (
        limit.least !== null &&
        limit.most !== null &&
        isQuantity(limit.least) &&
        isQuantity(limit.most) &&
        quantity(limit.least).gt(limit.most)
      )
        faults.push(
          `${name} can never conform: its least, ${limit.least}, is above its most, ${limit.most}.`
        );
      if (limit.least === null && limit.most === null)
        faults.push(
          `${name} has no bound, so everything would conform. Give a least or a most, or make it a text.`
        );
      if (limit.unit.trim() === '')
        faults.push(
          `${name} has no unit. A number without one means nothing to whoever reads the certificate.`
        );
    }
    if (
      limit.kind === 'choice' &&
      (limit.choices.length < 2 ||
        limit.good.length === 0 ||
        limit.good.some((one) => !limit.choices.some((choice) => fold(choice) === fold(one))))
    )
      faults.push(`${name} needs at least two answers, and must say which of them conform.`);
    if (
      limit.kind === 'yes/no' &&
      !(limit.good.length === 1 && ['YES', 'NO'].includes(fold(limit.good[0]!)))
    )
      faults.push(`${name} must say whether yes or no conforms.`);
  }
  return faults;
}

/**
 * What is wrong with a result by its form: a missing or foreign unit, no number, an answer there is
 * not. Null where it can be kept.
 */
export function resultFault(limit: Limit, result: Result): string | null {
  const value = result.value.trim();
  if (value === '') return `${limit.name} has no result.`;
  if (limit.kind === 'number') {
    if (!isQuantity(value)) return `“${value}” is no number for ${limit.name}.`;
    if (result.unit.trim() === '') return `${limit.name} has no unit. Say ${limit.unit}.`;
    if (result.unit.trim() !== limit.unit)
      return `${limit.name} is measured in ${limit.unit}, and ${result.unit.trim()} is given. Convert it first.`;
  }
  if (limit.kind === 'yes/no' && !['YES', 'NO'].includes(fold(value)))
    return `${limit.name} is answered by yes or no.`;
  if (limit.kind === 'choice' && !limit.choices.some((choice) => fold(choice) === fold(value)))
    return `${limit.name} is one of ${limit.choices.join(', ')}.`;
  return null;
}

/** One result against its limit. */
export function judge(limit: Limit, result: Result | null): Judged {
  const at = (verdict: Verdict, why = ''): Judged => ({ limit, result, verdict, why });
  if (!result) return at('untested', `${limit.name} was not tested`);
  if (resultFault(limit, result) !== null)
    return at(
      'untested',
      `${limit.name}: ${result.value} ${result.unit} says nothing by this spec`
    );
  const said = `${limit.name} ${result.value}${limit.unit ? ` ${limit.unit}` : ''}`;
  if (limit.kind === 'number') {
    const value = quantity(result.value.trim());
    if (limit.least !== null && value.lt(limit.least))
      return at('does not conform', `${said} is below ${limit.least}`);
    if (limit.most !== null && value.gt(limit.most))
      return at('does not conform', `${said} is above ${limit.most}`);
  }
  if (
    (limit.kind === 'choice' || limit.kind === 'yes/no') &&
    !limit.good.some((one) => fold(one) === fold(result.value))
  )
    return at('does not conform', `${said}, and ${limit.good.join(' or ')} is asked`);
  return at('conforms');
}

/**
 * The verdict on a mark: what fails decides, then what was not tested and must be. The latest
 * result of each characteristic counts.
 */
export function verdictOf(
  spec: Spec | null,
  results: readonly Result[]
): { verdict: Verdict | null; judged: Judged[] } {
  if (!spec || spec.limits.length === 0) return { verdict: null, judged: [] };
  const latest = new Map(results.map((result) => [fold(result.name), result]));
  const judged = spec.limits.map((limit) => judge(limit, latest.get(fold(limit.name)) ?? null));
  const verdict = judged.some((one) => one.verdict === 'does not conform')
    ? 'does not conform'
    : judged.some((one) => one.verdict === 'untested' && one.limit.required)
      ? 'untested'
      : 'conforms';
  return { verdict, judged };
}

/**
 * A limit in words: `150 to 190 N`, `at least 165 N`, `yes`, `tight`.
 * @param number writes a decimal as the words' language does
 */
export function sayLimit(
  limit: Limit,
  words: LimitWords = LIMITS_IN_ENGLISH,
  number: (text: string) => string = (text) => text
): string {
  if (limit.kind === 'text') return words.reported;
  if (limit.kind !== 'number')
    return words.or(limit.good.map((answer) => sayAnswer(limit.kind, answer, words)));
  const [least, most] = [limit.least, limit.most].map((bound) => bound && number(bound));
  const unit = limit.unit ? ` ${limit.unit}` : '';
  if (least && most) return `${words.between(least, most)}${unit}`;
  return `${least ? words.least(least) : words.most(most ?? '')}${unit}`;
}

/** An answer as the words' language says it; a choice is said as its spec does. */
export function sayAnswer(kind: LimitKind, answer: string, words: LimitWords): string {
  if (kind !== 'yes/no') return answer;
  return { yes: words.yes, no: words.no }[answer] ?? answer;
}

export type Verdict = 'conforms' | 'does not conform' | 'untested';
