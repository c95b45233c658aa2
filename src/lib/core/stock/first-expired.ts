import type { MarkState } from '../catalogue/marking.ts';
import { formatQuantity, quantity, ZERO, type Quantity } from '../quantity/quantity.ts';

/**
 * A lot or serial that could be taken. `expires` and `since` are days; `quantity` is what is on
 * hand of it.
 */
export interface Candidate {
  id: number;
  number: string;
  quantity: string;
  expires: string | null;
  since: string;
  state: MarkState;
}

export interface Pick {
  id: number;
  number: string;
  quantity: string;
}
export interface Proposal {
  picks: Pick[];
  /** What is not to be had, as a decimal string; `"0"` where all is. */
  short: string;
  /** Every candidate left out, and why. */
  left: { id: number; number: string; why: 'held' | 'rejected' | 'expired' | 'not needed' }[];
}

/**
 * First expired first out: takes from what expires soonest, what does not expire last, within the
 * same day what came in first.
 * Never takes what is held, rejected or expired on the day.
 */
export function firstExpiredFirst(
  candidates: readonly Candidate[],
  wanted: Quantity,
  day: string
): Proposal {
  const proposal: Proposal = { picks: [], short: '0', left: [] };
  let open = wanted;
  for (const candidate of [...candidates].sort(soonestFirst)) {
    const why =
      candidate.state !== 'usable'
        ? candidate.state
        : candidate.expires !== null && candidate.expires < day
          ? 'expired'
          : open.lte(0)
            ? 'not needed'
            : null;
    if (why) {
      proposal.left.push({ id: candidate.id, number: candidate.number, why });
      continue;
    }
    const there = quantity(candidate.quantity);
    const part = there.lt(open) ? there : open;
    if (part.lte(0)) continue;
    proposal.picks.push({
      id: candidate.id,
      number: candidate.number,
      quantity: formatQuantity(part)
    });
    open = open.minus(part);
  }
  proposal.short = formatQuantity(open.gt(0) ? open : ZERO);
  return proposal;
}

type Ordered = Omit<Candidate, 'id' | 'quantity' | 'state'>;

/** The order of first expired first: by expiry, then by the day it came in, then by number. */
export function soonestFirst(a: Ordered, b: Ordered): number {
  const far = '9999-12-31';
  return (
    compare(a.expires ?? far, b.expires ?? far) ||
    compare(a.since, b.since) ||
    compare(a.number, b.number)
  );
}

const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
