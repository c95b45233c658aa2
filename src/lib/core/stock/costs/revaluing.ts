import type { Faults } from '../../faults/fault.ts';
import type { Rows } from '../../ledger/booking.ts';
import type { KnownEvent, Snapshot } from '../../ledger/snapshot.ts';
import type { Quantity } from '../../quantity/quantity.ts';

/** A revaluation being decided. */
export interface Revaluing {
  snapshot: Snapshot;
  faults: Faults;
  rows: Rows;
  /** What is told of marks so far. */
  told: Map<number, Quantity>;
}

/** Kinds whose cost is told where the goods come in. */
export const COME_IN: ReadonlySet<string> = new Set(['receive', 'opening', 'gain', 'count']);

/** Marks an event brought in, and that was not taken back. */
export const broughtBy = (event: KnownEvent): Set<number> =>
  new Set(
    event.movements
      .filter(({ mark, quantity }) => quantity.gt(0) && !event.takenBack.has(mark))
      .map(({ mark }) => mark)
  );
