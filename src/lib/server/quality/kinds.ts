import { decideQuality, qualityWants } from '../../core/quality/decide-quality.ts';
import type { QualityDecision as QualityDecisionRequest } from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';
import { QualityDecision } from './schemas.ts';

/** A hold, a release or a rejection of marks. */
export const quality: BookingKind<QualityDecisionRequest & Circumstances> = {
  path: 'quality-decisions',
  summary: 'Hold, release or reject marks',
  schema: QualityDecision,
  rights: ['decide.quality'],
  right: 'decide.quality',
  eventKinds: ['hold', 'release', 'reject'],
  eventKind: (request) => request.kind,
  wants: qualityWants,
  decide: decideQuality
};
