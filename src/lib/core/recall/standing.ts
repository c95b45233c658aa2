import { groupBy } from '../group-by.ts';
import { quantity, total, ZERO, type Quantity } from '../quantity/quantity.ts';
import { amountsOf, type Amounts } from './amounts.ts';

export const OUTCOMES = ['returned', 'destroyed', 'written off'] as const;
export type Outcome = (typeof OUTCOMES)[number];

/**
 * What a customer had of a mark by one shipment, when the scope was decided. Quantities are decimal
 * strings in the mark's unit.
 */
export interface ScopeRow {
  partner: string;
  mark: number;
  event: number;
  unit: string;
  quantity: string;
  /** What of it came back by bookings since. */
  back: string;
}

/** What a customer told became of it. */
export interface AnswerRow {
  partner: string;
  mark: number;
  outcome: Outcome;
  quantity: string;
}

/** What became of goods: each measure is added up for itself. */
interface Became<T> {
  /** By a booking: it is here again. */
  returned: T;
  /** Said to be returned, and not come in yet. */
  reported: T;
  destroyed: T;
  writtenOff: T;
  /** Not answered. */
  open: T;
}

export interface CustomerStanding extends Became<Amounts> {
  partner: string;
  marks: number;
  had: Amounts;
  /** Of all they had, 0…1, lot by lot and serial by serial alike. */
  shares: Became<number>;
  /** What is accounted for: what was only reported is not, but for a drill. */
  part: number;
  notified: boolean;
  answered: boolean;
}

export interface Standing extends Became<Amounts> {
  customers: CustomerStanding[];
  had: Amounts;
  part: number;
}

/** A mark a customer had: what of it became what. */
export interface MarkStanding extends Became<Quantity> {
  partner: string;
  mark: number;
  unit: string;
  had: Quantity;
}

/**
 * Adds up what customers had and what became of it, customer by customer. *Returned* is what a
 * booking brought back; what a customer only says they sent is reported, and counted apart.
 * @param notified codes of partners that were written to
 * @param mock of a drill nothing comes back: what is reported counts as accounted for
 */
export function standingOf(
  scope: readonly ScopeRow[],
  answers: readonly AnswerRow[],
  notified: ReadonlySet<string>,
  mock: boolean
): Standing {
  const marks = standingByMark(scope, answers);
  const partners = [...groupBy(marks, (one) => one.partner)].sort(([a], [b]) => (a < b ? -1 : 1));
  const customers = partners.map(([partner, own]) => ({
    partner,
    marks: own.length,
    ...added(own),
    shares: sharesOf(own),
    part: accountedFor(own, mock),
    notified: notified.has(partner),
    answered: answers.some((row) => row.partner === partner)
  }));
  return { customers, ...added(marks), part: accountedFor(marks, mock) };
}

/** What became of each mark a customer had. */
export function standingByMark(
  scope: readonly ScopeRow[],
  answers: readonly AnswerRow[]
): MarkStanding[] {
  const told = groupBy(answers, (row) => `${row.partner} ${row.mark}`);
  return [...groupBy(scope, (row) => `${row.partner} ${row.mark}`)].map(([key, rows]) =>
    markStanding(rows, told.get(key) ?? [])
  );
}

function markStanding(rows: readonly ScopeRow[], told: readonly AnswerRow[]): MarkStanding {
  const { partner, mark, unit } = rows[0]!;
  const had = total(rows.map((row) => quantity(row.quantity)));
  const of = (outcome: Outcome): Quantity =>
    total(told.filter((row) => row.outcome === outcome).map((row) => quantity(row.quantity)));
  const back = total(rows.map((row) => quantity(row.back)));
  const returned = back.gt(had) ? had : back;
  const reported = aboveZero(of('returned').minus(returned));
  const [destroyed, writtenOff] = [of('destroyed'), of('written off')];
  const known = total([returned, reported, destroyed, writtenOff]);
  const open = aboveZero(had.minus(known));
  return { partner, mark, unit, had, returned, reported, destroyed, writtenOff, open };
}

const aboveZero = (amount: Quantity): Quantity => (amount.gt(0) ? amount : ZERO);

function added(marks: readonly MarkStanding[]): { had: Amounts } & Became<Amounts> {
  const of = (kind: 'had' | keyof Became<unknown>): Amounts =>
    amountsOf(marks.map((one) => ({ unit: one.unit, quantity: one[kind] })));
  return {
    ...{ had: of('had'), returned: of('returned'), reported: of('reported') },
    ...{ destroyed: of('destroyed'), writtenOff: of('writtenOff'), open: of('open') }
  };
}

/** Shares of unlike measures cannot be added, but shares of each mark can: their mean. */
function sharesOf(marks: readonly MarkStanding[]): Became<number> {
  const of = (kind: keyof Became<unknown>): number =>
    total(marks.map((one) => one[kind].div(one.had)))
      .div(marks.length)
      .toNumber();
  return {
    ...{ returned: of('returned'), reported: of('reported'), destroyed: of('destroyed') },
    ...{ writtenOff: of('writtenOff'), open: of('open') }
  };
}

function accountedFor(marks: readonly MarkStanding[], mock: boolean): number {
  if (marks.length === 0) return 1;
  const { open, reported } = sharesOf(marks);
  return Math.max(0, 1 - open - (mock ? 0 : reported));
}
