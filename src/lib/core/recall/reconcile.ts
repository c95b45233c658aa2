import { formatQuantity, quantity, ZERO, type Quantity } from '../quantity/quantity.ts';

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
  quantity: string;
}
/** What a customer told became of it. */
export interface AnswerRow {
  partner: string;
  mark: number;
  outcome: Outcome;
  quantity: string;
}

/**
 * How far a customer has answered. `part` is what is accounted for of what they had, 0…1, by
 * quantity over all their goods.
 */
export interface CustomerStanding {
  partner: string;
  marks: number;
  had: string;
  returned: string;
  destroyed: string;
  writtenOff: string;
  open: string;
  part: number;
  notified: boolean;
  answered: boolean;
}

export interface Standing {
  customers: CustomerStanding[];
  had: string;
  returned: string;
  destroyed: string;
  writtenOff: string;
  open: string;
  part: number;
}

/**
 * Adds up what customers had and what they answered, customer by customer. Goods of different units
 * are counted together by quantity, as each is accounted for in its own unit: a customer stands at
 * 100 % only when nothing of any mark is open.
 * @param notified codes of partners that were written to
 */
export function standingOf(
  scope: readonly ScopeRow[],
  answers: readonly AnswerRow[],
  notified: ReadonlySet<string>
): Standing {
  const partners = [...new Set(scope.map((row) => row.partner))].sort();
  const sum = (rows: readonly { quantity: string }[]): Quantity =>
    rows.reduce((total, row) => total.plus(row.quantity), ZERO);
  const customers = partners.map((partner): CustomerStanding => {
    const own = scope.filter((row) => row.partner === partner),
      told = answers.filter((row) => row.partner === partner);
    const had = sum(own),
      by = (outcome: Outcome) => sum(told.filter((row) => row.outcome === outcome));
    const done = sum(told);
    return {
      partner,
      marks: new Set(own.map((row) => row.mark)).size,
      had: formatQuantity(had),
      returned: formatQuantity(by('returned')),
      destroyed: formatQuantity(by('destroyed')),
      writtenOff: formatQuantity(by('written off')),
      open: formatQuantity(had.minus(done)),
      part: had.isZero() ? 1 : done.div(had).toNumber(),
      notified: notified.has(partner),
      answered: told.length > 0
    };
  });
  const over = (pick: (one: CustomerStanding) => string) =>
    formatQuantity(customers.reduce((total, one) => total.plus(pick(one)), ZERO));
  const had = over((one) => one.had),
    open = over((one) => one.open);
  return {
    customers,
    had,
    returned: over((one) => one.returned),
    destroyed: over((one) => one.destroyed),
    writtenOff: over((one) => one.writtenOff),
    open,
    part: had === '0' ? 1 : quantity(had).minus(open).div(had).toNumber()
  };
}

/** What is known now and was not when the scope was decided. */
export interface ScopeChange {
  shipments: ScopeRow[];
  /** Marks that lie here now and were not in the scope. */ here: number[];
}

/** Compares the scope as it was decided with what is known now. */
export function scopeChange(
  frozen: { customers: readonly ScopeRow[]; here: ReadonlySet<number>; marks: ReadonlySet<number> },
  live: { customers: readonly ScopeRow[]; here: ReadonlySet<number> }
): ScopeChange {
  const known = new Set(frozen.customers.map((row) => `${row.mark} ${row.event}`));
  return {
    shipments: live.customers.filter((row) => !known.has(`${row.mark} ${row.event}`)),
    here: [...live.here].filter((mark) => !frozen.here.has(mark) && !frozen.marks.has(mark))
  };
}

/** Why a case cannot be closed yet; empty where it reconciles. */
export function hindrances(
  standing: Standing,
  change: ScopeChange,
  here: { usable: number },
  signatures: number,
  mock: boolean
): string[] {
  return [
    ...(standing.open === '0' || mock
      ? []
      : [
          `${standing.open} with ${standing.customers.filter((one) => one.open !== '0').length} of ${standing.customers.length} customers are not accounted for`
        ]),
    ...(change.shipments.length === 0
      ? []
      : [
          `${change.shipments.length} ${change.shipments.length === 1 ? 'shipment has' : 'shipments have'} left since the scope was decided`
        ]),
    ...(here.usable === 0 || mock
      ? []
      : [
          `${here.usable} ${here.usable === 1 ? 'lot or serial' : 'lots and serials'} in the scope still may be used`
        ]),
    ...(signatures >= 2
      ? []
      : [signatures === 1 ? 'one of two signatures is missing' : 'two people have not signed yet'])
  ];
}

/**
 * The score of a drill: what part of what was made or received of the suspects was found, and
 * whether in time. Common practice of certification schemes: all of it within four hours (from
 * memory).
 * @param balances of the suspects: what came in and what is open, as decimal strings
 * @param minutes from opening to the decision; null while it is open
 */
export function drillScore(
  balances: readonly { in: string; open: string }[],
  minutes: number | null,
  target: number
): { found: string; inTime: boolean | null; passed: boolean | null } {
  const came = balances.reduce((sum, one) => sum.plus(one.in), ZERO),
    open = balances.reduce((sum, one) => sum.plus(quantity(one.open).abs()), ZERO);
  const found = came.isZero()
    ? '100'
    : formatQuantity(came.minus(open).div(came).times(100).toDecimalPlaces(2));
  const inTime = minutes === null ? null : minutes <= target;
  return { found, inTime, passed: inTime === null ? null : inTime && found === '100' };
}
