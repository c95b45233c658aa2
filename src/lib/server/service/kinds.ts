import { z } from 'zod';
import { decideFitting, fittingKind, fittingWants } from '../../core/making/fit.ts';
import { decideQuality, qualityWants } from '../../core/quality/decide-quality.ts';
import { decideIntake, intakeWants, type Intake } from '../../core/service/intake.ts';
import { claimedWants, decideClaimed, type Claimed } from '../../core/service/leave-on-claim.ts';
import { decideReturn, returnWants } from '../../core/shipping/return.ts';
import { amendmentWants, decideAmendment } from '../../core/stock/amend.ts';
import { decideShipment, shipmentWants } from '../../core/shipping/ship.ts';
import type {
  Amendment,
  Fitting,
  GoodsReturn,
  QualityDecision,
  Shipment
} from '../../core/ledger/request.ts';
import type { EventKind } from '../../core/ledger/event-kinds.ts';
import type { Tx } from '../kernel/db/client.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';

/**
 * What is booked in the course of a job: the bookings others make too, by the right of service and
 * kept with the job. They have no path of their own; a job’s address says which it is.
 */
function ofJob<Request extends { document: string }>(
  job: number,
  summary: string,
  kind: Pick<BookingKind<Request>, 'eventKinds' | 'eventKind' | 'wants' | 'decide'>
): BookingKind<Request> {
  return {
    ...kind,
    path: 'service-jobs',
    summary,
    schema: z.custom<Request>(),
    rights: ['service'],
    right: 'service',
    after: (tx, event) => keepWith(tx, event, job)
  };
}

const one = (kind: EventKind) => ({ eventKinds: [kind], eventKind: () => kind });

/** A unit we sent out comes in. */
export const comesBack = (job: number): BookingKind<GoodsReturn & Circumstances> =>
  ofJob(job, 'A unit comes in for service', {
    ...one('return'),
    wants: returnWants,
    decide: decideReturn
  });

/** A unit nobody here knows comes in. */
export const comesIn = (job: number): BookingKind<Intake & Circumstances> =>
  ofJob(job, 'A unit of foreign origin comes in for service', {
    ...one('intake'),
    wants: intakeWants,
    decide: decideIntake
  });

/** Parts into the unit, out of it, or both. */
export const fitsParts = (job: number): BookingKind<Fitting & Circumstances> =>
  ofJob(job, 'Parts of a unit are swapped in service', {
    eventKinds: ['fit', 'remove', 'swap'],
    eventKind: fittingKind,
    wants: fittingWants,
    decide: decideFitting
  });

/** What held the unit while it was here is over. */
export const isReleased = (job: number): BookingKind<QualityDecision & Circumstances> =>
  ofJob(job, 'A serviced unit is released', {
    ...one('release'),
    wants: qualityWants,
    decide: decideQuality
  });

/** A reconditioned unit goes on in our stock under a number of its own. */
export const isRenumbered = (job: number): BookingKind<Amendment & Circumstances> =>
  ofJob(job, 'A reconditioned unit gets a new number', {
    ...one('amendment'),
    wants: amendmentWants,
    decide: decideAmendment
  });

/** The unit goes back, or another in its place. */
export const goesBack = (job: number): BookingKind<Shipment & Circumstances> =>
  ofJob(job, 'A serviced unit goes back', {
    ...one('ship'),
    wants: shipmentWants,
    decide: decideShipment
  });

/** Claimed parts leave for their supplier. */
export const leavesOnClaim: BookingKind<Claimed & Circumstances> = {
  ...one('ship'),
  path: 'claims',
  summary: 'Claimed parts leave for their supplier',
  schema: z.custom<Claimed & Circumstances>(),
  rights: ['service'],
  right: 'service',
  wants: claimedWants,
  decide: decideClaimed
};

async function keepWith(tx: Tx, event: number, job: number): Promise<void> {
  await tx`INSERT INTO service_event (event_id, job_id) VALUES (${event}, ${job})`;
}
