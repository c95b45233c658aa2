import type { Faults } from '../faults/fault.ts';
import type { MarkRef, Rows } from '../ledger/booking.ts';
import type { Availability } from '../ledger/draw.ts';
import type { KnownPlace, Snapshot } from '../ledger/snapshot.ts';

/** One booking of fittings being decided. */
export interface FittingSheet {
  snapshot: Snapshot;
  rows: Rows;
  faults: Faults;
  available: Availability;
  /** Where parts are taken from first. */
  place: KnownPlace | null;
  /** Serials put in so far, and marks taken from stock, with their paths. */
  usedSerials: Map<MarkRef, string>;
  taken: Map<MarkRef, string>;
  /** Units named so far. */
  hosts: Set<MarkRef>;
  /** What was lost on the way. */
  scrapped: Rows['movements'];
}
