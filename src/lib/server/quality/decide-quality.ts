import { decideQuality, qualityWants } from '../../core/quality/decide-quality.ts';
import type { QualityDecision } from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';

/** A hold, a release or a rejection of marks. */
export const quality: BookingKind<QualityDecision & Circumstances> = {
  right: 'decide.quality',
  eventKind: (request) => request.kind,
  wants: qualityWants,
  decide: decideQuality
};
