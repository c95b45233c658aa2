import { lifeMissing, type Wishes } from '../catalogue/wishes.ts';
import type { Verdict } from '../quality/spec.ts';
import { formatQuantity, quantity, ZERO, type Quantity } from '../quantity/quantity.ts';
import { soonestFirst } from '../stock/first-expired.ts';
import { LazyOrder } from './lazy-order.ts';

/** How lots are chosen: what expires soonest, what came in first, or as few lots as will do. */
export const CHOICE_RULES = ['first expired', 'first in', 'fewest lots'] as const;
export type ChoiceRule = (typeof CHOICE_RULES)[number];

/**
 * A lot or serial that could go. Quantities are decimal strings in the product's unit, days
 * `YYYY-MM-DD`.
 */
export interface Offered {
  id: number;
  number: string;
  lot: string | null;
  expires: string | null;
  since: string;
  state: 'usable' | 'held' | 'rejected';
  onHand: string;
  /** Promised to other orders. */
  promised: string;
  /** Against this customer's spec, or the product's; null where there is none. */
  verdict: Verdict | null;
  /** Shelf life it began with in days, where known; for wishes by share. */
  life: number | null;
}

export const REASONS = [
  'held',
  'rejected',
  'expired',
  'promised',
  'does not conform',
  'untested',
  'too little life',
  'not enough for one lot',
  'not needed',
  'taken'
] as const;
export type Reason = (typeof REASONS)[number];

export interface WantedLine {
  line: number;
  wanted: string;
  /** A lot or serial that must be taken, by number; the rule then does not choose. */
  named?: string;
}
export interface ProposedLine {
  line: number;
  picks: { id: number; number: string; quantity: string }[];
  short: string;
}
export interface Considered {
  id: number;
  free: string;
  why: Reason;
}
export interface OrderProposal {
  lines: ProposedLine[];
  /** Every lot that was looked at, with why it was taken or left. */ considered: Considered[];
}

/** Why something may not go to this customer on this day at all; null where it may. */
export function unfit(offered: Offered, wishes: Wishes, day: string): Reason | null {
  if (offered.state !== 'usable') return offered.state;
  if (offered.expires !== null && offered.expires < day) return 'expired';
  if (offered.verdict === 'does not conform') return 'does not conform';
  if (wishes.tested && offered.verdict === 'untested') return 'untested';
  return lifeMissing(offered, wishes, day) === null ? null : 'too little life';
}

const ORDER: Record<ChoiceRule, (a: Offered, b: Offered) => number> = {
  'first expired': soonestFirst,
  'first in': (a, b) => (a.since < b.since ? -1 : a.since > b.since ? 1 : soonestFirst(a, b)),
  'fewest lots': soonestFirst
};

/** What of it is promised to nobody. */
function freeOf(offered: Offered): Quantity {
  const left =
    offered.promised === '0'
      ? quantity(offered.onHand)
      : quantity(offered.onHand).minus(offered.promised);
  return left.gt(0) ? left : ZERO;
}

/**
 * Proposes what goes for all lines of one product, the lines in their order drawing on what the
 * earlier ones left. Nothing held, rejected, expired, off its spec, promised to others or short of
 * the customer's wishes is proposed.
 * Time grows with lots and lines together, not with their product: whole orders of thousands of
 * lines propose in one go.
 */
export function propose(
  lines: readonly WantedLine[],
  offers: readonly Offered[],
  rule: ChoiceRule,
  wishes: Wishes,
  day: string
): OrderProposal {
  // Why each may not go, by its place among the offers: a hundred thousand that are only looked at
  // need no look-ups.
  const unfitFor: (Reason | null)[] = new Array<Reason | null>(offers.length);
  let noneIsEnough = false;
  // What is free is worked out for the few that are drawn on.
  const drawn = new Map<number, Quantity>();
  const free = {
    get: (offered: Offered): Quantity => drawn.get(offered.id) ?? freeOf(offered),
    set: (offered: Offered, left: Quantity) => drawn.set(offered.id, left)
  };
  const fit: Offered[] = [];
  for (let place = 0; place < offers.length; place++) {
    const offered = offers[place]!;
    const reason =
      unfit(offered, wishes, day) ??
      (offered.promised !== '0' && freeOf(offered).lte(0) ? 'promised' : null);
    unfitFor[place] = reason;
    if (!reason) fit.push(offered);
  }
  const order = new LazyOrder(fit, ORDER[rule]);
  const byNumber = lines.some((line) => line.named !== undefined)
    ? new Map(fit.map((offered) => [offered.number.toUpperCase(), offered]))
    : new Map<string, Offered>();
  let first = 0; // all before it are used up
  const proposed = lines.map((line): ProposedLine => {
    const picks: ProposedLine['picks'] = [];
    let open = quantity(line.wanted);
    const take = (offered: Offered, most: Quantity): void => {
      const there = free.get(offered);
      const part = there.lt(most) ? there : most;
      if (part.lte(0)) return;
      free.set(offered, there.minus(part));
      picks.push({ id: offered.id, number: offered.number, quantity: formatQuantity(part) });
      open = open.minus(part);
    };
    if (line.named !== undefined) {
      const named = byNumber.get(line.named.trim().toUpperCase());
      if (named) take(named, open);
    } else if (wishes.oneLot) {
      const whole = order.all().find((offered) => free.get(offered).gte(open));
      if (whole) take(whole, open);
      else noneIsEnough = true;
    } else if (rule === 'fewest lots') {
      // The largest first takes the fewest; the last of them is the one that fits closest, the
      // soonest to expire among those alike.
      const bySize = order
        .all()
        .filter((offered) => free.get(offered).gt(0))
        .sort((a, b) => free.get(b).cmp(free.get(a)));
      for (const offered of bySize) {
        if (open.lte(0)) break;
        const enough = bySize.filter((other) => free.get(other).gte(open));
        const last = enough.at(-1);
        take(
          last
            ? enough.filter((other) => free.get(other).eq(free.get(last))).sort(ORDER[rule])[0]!
            : offered,
          open
        );
      }
    } else {
      while (first < order.length && free.get(order.at(first)!).lte(0)) first++;
      for (let at = first; at < order.length && open.gt(0); at++) take(order.at(at)!, open);
    }
    return { line: line.line, picks, short: formatQuantity(open.gt(0) ? open : ZERO) };
  });
  return {
    lines: proposed,
    considered: offers.map((offered, place) => ({
      id: offered.id,
      free:
        offered.promised === '0' && !drawn.has(offered.id)
          ? offered.onHand
          : formatQuantity(free.get(offered)),
      why:
        unfitFor[place] ??
        (drawn.has(offered.id) ? 'taken' : noneIsEnough ? 'not enough for one lot' : 'not needed')
    }))
  };
}
