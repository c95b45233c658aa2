import type { BookedAgainst } from '../../core/ledger/booked-against.ts';

/** What an order says of its bookings; a sheet that is no order says nothing. */
export interface Booked {
  number: string;
  kind?: string;
  partner?: string | null;
  partnerName?: string | null;
  events?: readonly BookedAgainst[];
  eventCount?: number;
}
