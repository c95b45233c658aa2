import { dayOf, HOME_ZONE } from '../calendar/day.ts';
import { verdictOf, type Verdict } from '../ledger/booking.ts';
import { decideWith } from '../ledger/decide-with.ts';
import type { Receipt } from '../ledger/request.ts';
import type { Snapshot } from '../ledger/snapshot.ts';
import { decideReceipt } from './receive.ts';

/**
 * Judges a receipt away from the ledger, by the very decision that books it, on what was known of
 * its order earlier: products and their plans, places, what was open. What others booked since, and
 * numbers that are in the ledger already, it cannot know.
 */
export function judgeKnown(known: Snapshot, request: Receipt, now: Date): Verdict {
  const [place] = known.places.values();
  const day = dayOf(now, place?.zone ?? HOME_ZONE);
  return verdictOf(decideWith(decideReceipt, { ...known, happenedAt: now, day }, request));
}
