import { correctionWants, decideCorrection } from '../../core/stock/correct.ts';
import type { Correction } from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';

/** What was counted differently, or destroyed. */
export const correct: BookingKind<Correction & Circumstances> = {
  right: (request) => (request.kind === 'scrap' ? 'book.scrap' : 'book.correct'),
  eventKind: (request) => request.kind,
  wants: correctionWants,
  decide: decideCorrection
};
