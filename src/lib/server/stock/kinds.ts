import { correctionWants, decideCorrection } from '../../core/stock/correct.ts';
import { decideMove, leavesQuarantine, moveWants } from '../../core/stock/decide-move.ts';
import { decideIdentification, identificationWants } from '../../core/stock/give-numbers.ts';
import { decideRevaluation, revaluationWants } from '../../core/stock/costs/decide-revaluation.ts';
import { amendmentWants, decideAmendment } from '../../core/stock/amend.ts';
import type {
  Correction as CorrectionRequest,
  Move as MoveRequest,
  Identification as IdentificationRequest,
  Amendment as AmendmentRequest,
  Revaluation as RevaluationRequest
} from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';
import { carryCosts } from './costs/carry-costs.ts';
import { Correction, Move, Identification, Amendment, Revaluation } from './schemas.ts';

/** What was counted differently, or destroyed. */
export const correct: BookingKind<CorrectionRequest & Circumstances> = {
  path: 'corrections',
  summary: 'Book a gain, a loss or scrap',
  schema: Correction,
  rights: ['book.scrap', 'book.correct'],
  right: (request) => (request.kind === 'scrap' ? 'book.scrap' : 'book.correct'),
  eventKinds: ['gain', 'loss', 'scrap'],
  eventKind: (request) => request.kind,
  before: carryCosts,
  wants: correctionWants,
  decide: decideCorrection
};

/** What marks cost, told otherwise. */
export const revalue: BookingKind<RevaluationRequest & Circumstances> = {
  path: 'revaluations',
  summary: 'Say what marks cost: what came in by a receipt, or what they are worth from now on',
  schema: Revaluation,
  rights: ['book.revalue'],
  right: 'book.revalue',
  eventKinds: ['revaluation'],
  eventKind: () => 'revaluation',
  wants: revaluationWants,
  decide: decideRevaluation
};

/** Goods go to another place: put away after they came in, or moved. */
export const move: BookingKind<MoveRequest & Circumstances> = {
  path: 'moves',
  summary: 'Book a move, or putting away what came in',
  schema: Move,
  rights: ['book.move'],
  right: 'book.move',
  eventKinds: ['put away', 'move'],
  eventKind: (request) => request.kind,
  // Out of quarantine only whoever decides about quality moves anything.
  rightsThen: (snapshot, request) =>
    leavesQuarantine(snapshot, request) ? ['decide.quality'] : [],
  wants: moveWants,
  decide: decideMove
};

/** Stock that had no number gets one. */
export const giveNumbers: BookingKind<IdentificationRequest & Circumstances> = {
  path: 'identifications',
  summary: 'Give numbers to stock that has none',
  schema: Identification,
  rights: ['book.identify'],
  right: 'book.identify',
  eventKinds: ['identify'],
  eventKind: () => 'identify',
  wants: identificationWants,
  decide: decideIdentification
};

/** What is wrong on a mark is put right; the old value stays. */
export const amend: BookingKind<AmendmentRequest & Circumstances> = {
  path: 'amendments',
  summary: 'Put right a number, date, supplier number or fact of marks; the old value is kept',
  schema: Amendment,
  rights: ['amend'],
  right: 'amend',
  eventKinds: ['amendment'],
  eventKind: () => 'amendment',
  wants: amendmentWants,
  decide: decideAmendment
};
