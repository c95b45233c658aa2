import { sameParts } from '../presence.ts';

/**
 * Something traced was in a host, that other parts came out of, from one time to another. Clocks
 * are as in `Labels`.
 */
export interface Stay {
  happened: number;
  booked: number;
  /** When it came out again. */
  to: { happened: number; booked: number } | null;
  /** The part by which it is in; WHOLE where the host as a whole is suspect, ITSELF where it alone is. */
  through: number;
  /** Upstream: the only parts asked for. */
  only: ReadonlySet<number> | null;
}

/** Nothing came over, or a part came out as what it was before. */
export type Flow = Stay | 'itself' | null;

export const WHOLE = 0,
  ITSELF = -1;

/** Whether an event at these clocks is within a stay: not before it, and not behind its end. */
export function within(stay: Stay, happened: number, booked: number): boolean {
  if (happened < stay.happened && booked < stay.booked) return false;
  return !stay.to || happened <= stay.to.happened || booked <= stay.to.booked;
}

/** Upstream, where clocks are negated: whether one is looked at behind the other by both. */
export const isBefore = (
  one: { happened: number; booked: number },
  other: { happened: number; booked: number }
): boolean => one.happened < other.happened && one.booked < other.booked;

export function sameStay(one: Stay, other: Stay): boolean {
  const to =
    one.to === other.to ||
    (one.to?.happened === other.to?.happened && one.to?.booked === other.to?.booked);
  const only = sameParts(one.only, other.only);
  return (
    one.happened === other.happened &&
    one.booked === other.booked &&
    one.through === other.through &&
    to &&
    only
  );
}
