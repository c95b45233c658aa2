import { decideTeardown, teardownWants } from '../../core/making/teardown.ts';
import type { Teardown } from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';

/** A made unit back into its components. */
export const teardown: BookingKind<Teardown & Circumstances> = {
  right: 'book.repack',
  eventKind: () => 'teardown',
  wants: teardownWants,
  decide: decideTeardown
};
