/** An event that was booked against an order, as its page lists it. */
export interface BookingAgainst {
  id: number;
  kind: string;
  /** The number its paper goes by. */
  paper: string;
  reference: string | null;
  /** An instant. */
  at: string;
  who: string;
  takenBack: boolean;
  marks: number;
  first: readonly { id: number; number: string | null; product: string }[];
  certificates: readonly number[];
}

/** What an order says of its bookings; a sheet that is no order says nothing. */
export interface Booked {
  events?: readonly BookingAgainst[];
  eventCount?: number;
}
