/**
 * When an event was, by both clocks of the ledger: the instant it happened, in microseconds, and
 * its place in the order of booking, its id. People book late and mistype hours, so neither alone
 * may clear anything.
 */
export interface Clock {
  happened: number;
  booked: number;
}

/** Before everything, and behind everything. */
export const BEGINNING: Clock = { happened: -Infinity, booked: -Infinity };
export const END: Clock = { happened: Infinity, booked: Infinity };

/** Whether one is at the other's time or later by either clock. */
export const atOrAfter = (one: Clock, other: Clock): boolean =>
  one.happened >= other.happened || one.booked >= other.booked;

/** The earlier by each clock; both of one event, or each of another. */
export const earliest = (one: Clock, other: Clock): Clock => ({
  happened: Math.min(one.happened, other.happened),
  booked: Math.min(one.booked, other.booked)
});

/** The later by each clock. */
export const latest = (one: Clock, other: Clock): Clock => ({
  happened: Math.max(one.happened, other.happened),
  booked: Math.max(one.booked, other.booked)
});

export const sameClock = (one: Clock, other: Clock): boolean =>
  one.happened === other.happened && one.booked === other.booked;
