import { decideReversal, reversalWants } from '../../core/ledger/reverse.ts';
import type { Reversal } from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from './book.ts';

/** Takes a build, a repack or a teardown back. */
export const reverse: BookingKind<Reversal & Circumstances> = {
  right: 'book.reverse',
  eventKind: () => 'reversal',
  wants: reversalWants,
  decide: decideReversal
};
