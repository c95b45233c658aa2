import { decideMove, moveWants } from '../../core/stock/move.ts';
import type { Move } from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';

/** Goods go to another place: put away after they came in, or moved. */
export const move: BookingKind<Move & Circumstances> = {
  right: 'book.move',
  eventKind: (request) => request.kind,
  wants: moveWants,
  decide: decideMove
};
