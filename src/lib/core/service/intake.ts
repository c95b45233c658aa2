import { Faults } from '../faults/fault.ts';
import { Births } from '../ledger/birth.ts';
import { decided, emptyRows, type Decision } from '../ledger/booking.ts';
import { identify } from '../ledger/identity.ts';
import { findMark, findPlace, findProduct } from '../ledger/lookup.ts';
import type { Wants } from '../ledger/request.ts';
import type { KnownProduct, Snapshot } from '../ledger/snapshot.ts';
import { ONE } from '../quantity/quantity.ts';

/** A unit that was never made or received here comes in for service. */
export interface Intake {
  document: string;
  place: string;
  product: string;
  serial: string;
  lot?: string;
}

export const intakeWants = ({ place, product, serial, lot }: Intake): Wants => ({
  products: [product],
  places: [place],
  partner: null,
  order: null,
  marks: [{ product, marks: [{ serial, ...(lot === undefined ? {} : { lot }) }] }],
  draws: true
});

/** Of what somebody else made nothing is asked but its number. */
const asForeign = (product: KnownProduct): KnownProduct => ({
  ...product,
  plan: { ...product.plan, expires: 'not kept', retest: 'not kept', made: 'if given', facts: [] }
});

/**
 * Decides taking in a unit nobody here knows: its mark begins with this event, and is held, as it is
 * a customer’s and free for nothing. Nothing is asked of its age.
 * Faults: product.unknown, place.unknown, mark.missing, mark.duplicate where it is known after all,
 * and those of a mark’s birth.
 */
export function decideIntake(snapshot: Snapshot, request: Intake): Decision {
  const faults = new Faults();
  const rows = emptyRows();
  const path = 'unit';
  const place = findPlace(snapshot, request.place, 'place', faults);
  const known = findProduct(snapshot, request.product, `${path}.product`, faults);
  const product = known && asForeign(known);
  const identity = product && identify(product, request, 'return', path, faults);
  if (!product || !identity) return decided(rows, faults, snapshot);
  if (identity.kind !== 'serial') {
    const message = `${product.code} is not marked by serial, so no single unit of it can be taken in.`;
    faults.add('mark.missing', path, message, product.code);
    return decided(rows, faults, snapshot);
  }
  if (findMark(snapshot, product, 'serial', identity.number)) {
    const message = `Serial ${identity.number} of ${product.code} is known here. Take it in as what it is.`;
    faults.add('mark.duplicate', path, message, identity.number);
    return decided(rows, faults, snapshot);
  }
  const births = new Births(snapshot, rows, faults);
  const ref = births.make({
    product,
    identity,
    with: {},
    madeHere: false,
    earliestComponent: null,
    path
  });
  if (ref !== null && place) {
    rows.movements.push({ mark: ref, placeId: place.id, quantity: ONE });
    rows.changes.push({ mark: ref, field: 'state', from: 'usable', to: 'held' });
    rows.answer.push(ref);
  }
  return decided(rows, faults, snapshot);
}
