import type { Fault } from '../faults/fault.ts';
import { sayAsked, signerOf, type SignatureAsked, type SignedAct } from '../people/signing.ts';
import type { Rows } from './booking.ts';
import type { EventKind } from './event-kinds.ts';
import type { Snapshot } from './snapshot.ts';

/** What says which goods these are and how long they are good. */
const CRITICAL: ReadonlySet<string> = new Set(['number', 'expires_on', 'made_on']);
const PUT_RIGHT: ReadonlySet<EventKind> = new Set(['amendment', 'reversal']);
const MOVED: ReadonlySet<EventKind> = new Set(['move', 'put away', 'transfer', 'reversal']);

/** Whether goods leave a place where nothing is free, for one where it is. */
function leavesQuarantine({ places }: Snapshot, { movements }: Rows): boolean {
  const isQuarantine = new Map([...places.values()].map((place) => [place.id, place.quarantine]));
  return (
    movements.some((one) => one.quantity.isNegative() && isQuarantine.get(one.placeId) === true) &&
    movements.some((one) => !one.quantity.isNegative() && isQuarantine.get(one.placeId) === false)
  );
}

/** The act of a booking that a plan may want signed; null where none is. */
export function actOf(snapshot: Snapshot, kind: EventKind, rows: Rows): SignedAct | null {
  if (kind === 'count') return 'count';
  const isFreed = rows.changes.some(({ field, to }) => field === 'state' && to === 'usable');
  if (isFreed || (MOVED.has(kind) && leavesQuarantine(snapshot, rows))) return 'release';
  const isPutRight = PUT_RIGHT.has(kind) && rows.changes.some(({ field }) => CRITICAL.has(field));
  return isPutRight ? 'amendment' : null;
}

/** The signature that the plans of a booking's products ask for; null where they ask for none. */
export function signatureAsked(
  snapshot: Snapshot,
  kind: EventKind,
  rows: Rows
): SignatureAsked | null {
  const act = actOf(snapshot, kind, rows);
  if (act === null) return null;
  const plans = [...snapshot.products.values()].map(({ plan }) => plan);
  const signer = signerOf(plans, act);
  return signer === 'nobody' ? null : { act, signer };
}

/**
 * The fault of an act without the signature that is asked.
 * @param document what it is done under; the signature is given for it
 */
export const signatureFault = (sign: SignatureAsked, document: string): Fault => ({
  code: 'signature.missing',
  path: 'signature',
  number: document,
  message: sayAsked(sign),
  sign
});
