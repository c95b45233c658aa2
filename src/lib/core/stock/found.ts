import { sayDay } from '../calendar/say-day.ts';
import type { Faults } from '../faults/fault.ts';
import type { Births } from '../ledger/birth.ts';
import { bornAgain, mayBeBornAgain } from '../ledger/born-again.ts';
import type { MarkRef, Rows } from '../ledger/booking.ts';
import type { Availability } from '../ledger/draw.ts';
import type { Identity } from '../ledger/identity.ts';
import { findMark, nameOf } from '../ledger/lookup.ts';
import { ofUnknownAge } from '../ledger/of-unknown-age.ts';
import type { BornWith } from '../ledger/request.ts';
import type { KnownMark, KnownPlace, KnownProduct, Snapshot } from '../ledger/snapshot.ts';
import { sayGone } from '../ledger/use-mark.ts';
import { ONE, opposite, type Quantity } from '../quantity/quantity.ts';
import { placeFor } from './quarantine.ts';
import { costed } from './unit-cost.ts';

/** A booking by which things are found, as far as it is decided. */
export interface Finding {
  snapshot: Snapshot;
  faults: Faults;
  rows: Rows;
  births: Births;
  available: Availability;
}

/** What was found: a mark, where, and how much beyond what was known. */
export interface Found {
  product: KnownProduct;
  place: KnownPlace;
  identity: Identity;
  quantity: Quantity;
  with: BornWith;
  unitCost: Quantity | null;
  path: string;
}

/** Kinds of event after which a serial may turn up again: nobody knows where it went. */
const LOST = new Set(['loss', 'count']);

/**
 * Takes what was found in: more of a lot or of what has no numbers, a serial that was lost or lies
 * elsewhere by the ledger, or a mark that was never known, whose origin is this booking.
 * Faults: mark.duplicate where a serial is somewhere else for good, place.quarantine, and those of
 * a mark's birth.
 */
export function takeFound(finding: Finding, found: Found): void {
  const { snapshot, rows } = finding;
  const { product, identity } = found;
  const mark = findMark(snapshot, product, identity.kind, identity.number);
  if (!mark) {
    const ref = born(finding, found);
    if (ref !== null) gain(finding, found, ref);
    return;
  }
  rows.answer.push(mark.id);
  if (mark.kind === 'serial') foundSerial(finding, found, mark);
  else gain(finding, found, mark.id);
}

function born(finding: Finding, found: Found): MarkRef | null {
  const { births } = finding;
  const { identity, with: given, path } = found;
  if (lotIsMissing(found)) {
    const message = `Serial ${identity.number} of ${found.product.code} was never known. Say the lot it is within.`;
    finding.faults.add('mark.missing', path, message, identity.number);
    return null;
  }
  const made = identity.kind === 'lot' ? births.lotMade(found.product, identity.number) : undefined;
  if (made !== undefined) return made;
  const ref = births.make(asNew(found, given));
  if (ref !== null) finding.rows.answer.push(ref);
  if (ref !== null && identity.kind !== 'bulk')
    finding.faults.note(
      path,
      `${nameOf(identity, found.product)} of ${found.product.code} was never known: it comes to be here, found at ${found.place.code}.`,
      identity.number
    );
  return ref;
}

const lotIsMissing = ({ product, identity }: Found): boolean =>
  product.plan.identity === 'serial-in-lot' && identity.kind === 'serial' && identity.lot === null;

const asNew = ({ product, identity, path }: Found, given: BornWith) => ({
  product: ofUnknownAge(product, given.made),
  identity,
  with: given,
  madeHere: false,
  earliestComponent: null,
  path
});

function foundSerial(finding: Finding, found: Found, serial: KnownMark): void {
  const { snapshot, available } = finding;
  if (available.amount(serial.id, found.place).gt(0)) return;
  if (available.amount(serial.id).gt(0)) {
    carryOver(finding, found, serial);
    return;
  }
  const gone = snapshot.gone.get(serial.id);
  if (mayBeBornAgain(snapshot, serial)) {
    const { rows, faults } = finding;
    if (bornAgain(snapshot, rows, faults, serial, asNew(found, found.with)) === null) return;
  } else if (gone && !LOST.has(gone.kind)) {
    tellGone(finding, found, serial);
    return;
  }
  gain(finding, found, serial.id);
}

function tellGone({ snapshot, faults }: Finding, { product, path }: Found, serial: KnownMark) {
  const went = sayGone(snapshot.gone.get(serial.id));
  const message = `Serial ${serial.number} of ${product.code} cannot lie here: ${went}. Book its return, or take that booking back; then count it again.`;
  faults.add('mark.duplicate', path, message, serial.number!);
}

/** A serial that by the ledger lies at another place is carried over from there. */
function carryOver(finding: Finding, { product, place, path }: Found, serial: KnownMark): void {
  const { snapshot, rows, available, faults } = finding;
  const [taken] = available.take(serial.id, ONE, null, null) ?? [];
  if (!taken) return;
  const { place: from } = taken;
  if (from.quarantine && !place.quarantine) {
    const message = `Serial ${serial.number} of ${product.code} lies in quarantine (${from.code}) and was found at ${place.code}. Have quality move it out, or put it back, then count it again.`;
    faults.add('place.quarantine', path, message, serial.number!);
    return;
  }
  available.add(serial.id, place, taken.quantity);
  rows.movements.push(
    { mark: serial.id, placeId: from.id, quantity: opposite(taken.quantity) },
    { mark: serial.id, placeId: place.id, quantity: taken.quantity }
  );
  const since = sayDay(snapshot.day);
  const message = `Serial ${serial.number} was kept at ${from.code}; it lies at ${place.code} from ${since}.`;
  faults.note(path, message, serial.number!);
}

/**
 * Where costs are kept, what is found has one: its own, or the one that is given.
 * Faults: cost.missing.
 */
function tellNoCost({ snapshot, faults }: Finding, found: Found, mark: MarkRef): void {
  const { product, unitCost, path, identity } = found;
  if (snapshot.currency === null || unitCost !== null || snapshot.costs.has(mark)) return;
  const number = identity.number || product.code;
  const message = `What ${number} costs is not known. Say what one ${product.unit} of it costs, in ${snapshot.currency}.`;
  faults.add('cost.missing', `${path}.unitCost`, message, number);
}

/** More than was known lies there, or first in quarantine where the plan wishes it. */
function gain(finding: Finding, found: Found, mark: MarkRef): void {
  const { snapshot, rows, available, faults } = finding;
  const { product, place, quantity, path } = found;
  const sent = product.plan.foundTo === 'quarantine';
  const to = placeFor(snapshot, product, sent, place, `${path}.place`, faults);
  if (!to) return;
  available.add(mark, to, quantity);
  tellNoCost(finding, found, mark);
  rows.movements.push(costed({ mark, placeId: to.id, quantity }, found.unitCost));
}
