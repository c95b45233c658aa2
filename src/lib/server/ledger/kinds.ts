import { decideReversal, reversalWants } from '../../core/ledger/reverse.ts';
import type { Reversal as ReversalRequest } from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from './book.ts';
import { Reversal } from './schemas.ts';

/** Takes a build, a repack or a teardown back. */
export const reverse: BookingKind<ReversalRequest & Circumstances> = {
  path: 'reversals',
  summary: 'Take a build, repack or teardown back, or the part of it that made certain units',
  schema: Reversal,
  rights: ['book.reverse'],
  right: 'book.reverse',
  eventKinds: ['reversal'],
  eventKind: () => 'reversal',
  wants: reversalWants,
  decide: decideReversal
};
