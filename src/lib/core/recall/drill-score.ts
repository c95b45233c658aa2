import { groupBy } from '../group-by.ts';
import { formatQuantity, quantity, total, ZERO, type Quantity } from '../quantity/quantity.ts';
import type { AnswerRow, ScopeRow } from './standing.ts';

export interface DrillScore {
  /** What of what was made or received of the suspects was found, in per cent. */
  found: string;
  /** What of what customers had they answered for in time, in per cent. */
  answered: string;
  /** Whether the scope was decided in time; null while it is not and may be. */
  inTime: boolean | null;
  /** Null while the drill runs and can still be passed. */
  passed: boolean | null;
}

interface Drill {
  /** Of the suspects: what came in and what is open, as decimal strings. */
  balances: readonly { in: string; open: string }[];
  /** What customers had, once it is decided. */
  scope: readonly ScopeRow[];
  /** With the minutes from opening at which they were told. */
  answers: readonly (AnswerRow & { minutes: number })[];
  /** Minutes from opening to the decision; null while it is not taken. */
  decided: number | null;
  /** Minutes from opening until now, or until it was closed. */
  elapsed: number;
  closed: boolean;
  /** Minutes within which all must be found and answered. */
  target: number;
}

/**
 * The score of a drill: whether all of it was found, and whether its customers answered for all of
 * it in time. A scope that was opened and never answered passes nothing. Common practice of
 * certification schemes: all of it within four hours (from memory).
 */
export function drillScore(drill: Drill): DrillScore {
  const { decided, elapsed, target, closed } = drill;
  const found = foundOf(drill.balances);
  const answered = decided === null ? ZERO : answeredOf(drill);
  const over = closed || elapsed > target;
  const late = over ? false : null;
  const inTime = decided === null ? late : decided <= target;
  const complete = inTime === true && found.eq(100) && answered.eq(100);
  return {
    found: formatQuantity(found.toDecimalPlaces(2)),
    // never rounded up to a hundred
    answered: formatQuantity(answered.times(100).floor().div(100)),
    inTime,
    passed: complete ? true : late
  };
}

function foundOf(balances: Drill['balances']): Quantity {
  const came = total(balances.map((one) => quantity(one.in)));
  if (came.isZero()) return quantity('100');
  const open = total(balances.map((one) => quantity(one.open).abs()));
  return came.minus(open).div(came).times(100);
}

/** The mean over what each customer had of each mark: unlike measures are not added. */
function answeredOf({ scope, answers, target }: Drill): Quantity {
  const marks = groupBy(scope, (row) => `${row.partner} ${row.mark}`);
  if (marks.size === 0) return quantity('100');
  const inTime = answers.filter((row) => row.minutes <= target);
  const told = groupBy(inTime, (row) => `${row.partner} ${row.mark}`);
  const shares = [...marks].map(([key, rows]) => {
    const had = total(rows.map((row) => quantity(row.quantity)));
    return total((told.get(key) ?? []).map((row) => quantity(row.quantity))).div(had);
  });
  return total(shares).div(shares.length).times(100);
}
