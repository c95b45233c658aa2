import { decideReversal, reversalWants } from '../../core/ledger/reverse.ts';
import { rightsToTakeBack } from '../../core/ledger/taking-back/right-to-take-back.ts';
import type { Reversal as ReversalRequest } from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from './book.ts';
import { Reversal } from './schemas.ts';

/** Takes an event back, whatever its kind. */
export const reverse: BookingKind<ReversalRequest & Circumstances> = {
  path: 'reversals',
  summary: 'Take an event back, of any kind, or what it did to certain marks',
  schema: Reversal,
  rights: ['book.reverse'],
  right: 'book.reverse',
  eventKinds: ['reversal'],
  eventKind: () => 'reversal',
  rightsThen: ({ event }) => (event ? rightsToTakeBack(event.kind) : []),
  wants: reversalWants,
  decide: decideReversal
};
