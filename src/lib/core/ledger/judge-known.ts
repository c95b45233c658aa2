import { dayOf, HOME_ZONE } from '../calendar/day.ts';
import type { Reasons } from '../faults/fault.ts';
import { verdictOf, type Decision, type Verdict } from './booking.ts';
import { decideWith } from './decide-with.ts';
import type { Snapshot } from './snapshot.ts';

/** How a kind decides what it is asked, knowing a snapshot. */
export type Decide<Request extends object> = (snapshot: Snapshot, request: Request) => Decision;

/**
 * Decides away from the ledger, by the very decision that books, on what was known earlier. What
 * others booked since it cannot know.
 */
export function decideKnown<Request extends object>(
  decide: Decide<Request>,
  known: Snapshot,
  request: Request & { reasons?: Reasons },
  now: Date
): Decision {
  const [place] = known.places.values();
  const day = dayOf(now, place?.zone ?? HOME_ZONE);
  return decideWith(decide, { ...known, happenedAt: now, day }, request);
}

/** The verdict on a booking that brings goods in: none of its numbers need be known. */
export const judgeComing = <Request extends object>(
  decide: Decide<Request>,
  known: Snapshot,
  request: Request,
  now: Date
): Verdict => verdictOf(decideKnown(decide, known, request, now));

/**
 * The verdict on a booking that takes goods from where they lie. A number that is not known here
 * may have come since, or is one of more than a device keeps: that is no fault, but is told.
 */
export function judgeGoing<Request extends object>(
  decide: Decide<Request>,
  known: Snapshot,
  request: Request,
  now: Date
): Verdict {
  const { faults, notes } = verdictOf(decideKnown(decide, known, request, now));
  const unknown = faults.filter(({ code }) => code === 'mark.unknown');
  const told = unknown.map(({ path, number }) => ({
    path,
    ...(number === undefined ? {} : { number }),
    message: `${number ?? 'It'} is not known on this device. Earmark looks for it when the line is back.`
  }));
  return {
    faults: faults.filter((fault) => !unknown.includes(fault)),
    notes: [...notes, ...told]
  };
}
