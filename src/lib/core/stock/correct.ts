import { opposite } from '../quantity/quantity.ts';
import { decided, emptyRows, type Decision, type MarkRef } from '../ledger/booking.ts';
import { Births } from '../ledger/birth.ts';
import { Availability } from '../ledger/draw.ts';
import { Faults } from '../faults/fault.ts';
import { identify, type Identity } from '../ledger/identity.ts';
import { lineQuantity, serialQuantity } from '../ledger/line-quantity.ts';
import { findMark, findPlace, findProduct, whereItLies } from '../ledger/lookup.ts';
import { onePerLine, type Correction, type CorrectionLine, type Wants } from '../ledger/request.ts';
import {
  codeKey,
  markKey,
  type KnownPlace,
  type KnownProduct,
  type Snapshot
} from '../ledger/snapshot.ts';
import { sayPath, useMark } from '../ledger/use-mark.ts';
import { takeFound, type Finding } from './found.ts';
import { costed, readUnitCost } from './unit-cost.ts';

export const correctionWants = (request: Correction): Wants => ({
  products: request.lines.map((line) => line.product),
  places: request.lines.map((line) => line.place),
  // Scrap under a work order's number counts against that order.
  partner: null,
  order: request.kind === 'scrap' ? { kind: 'work', number: request.document } : null,
  marks: onePerLine(request.lines),
  draws: true,
  costs: true
});

interface Correcting extends Finding {
  kind: Correction['kind'];
  /** Serials of this booking with the path of their first use; and those gained, by markKey. */
  used: Map<MarkRef, string>;
  found: Map<string, string>;
}

/**
 * Decides a gain, loss or scrap: what was counted differently or is destroyed. A gain adds to a lot
 * or to what has no numbers, brings a lost serial back, or makes a mark that was never known.
 * Faults: those of `useMark` and `takeFound`, quantity.mismatch, product.unknown, place.unknown.
 */
export function decideCorrection(snapshot: Snapshot, request: Correction): Decision {
  const faults = new Faults(request.reasons, snapshot.granted);
  const rows = emptyRows();
  rows.orderId = snapshot.order?.id ?? null;
  const correcting: Correcting = {
    kind: request.kind,
    snapshot,
    faults,
    rows,
    births: new Births(snapshot, rows, faults),
    available: new Availability(snapshot),
    used: new Map(),
    found: new Map()
  };
  request.lines.forEach((line, index) => correctLine(correcting, line, `lines[${index}]`));
  return decided(rows, faults, snapshot);
}

function correctLine(correcting: Correcting, line: CorrectionLine, path: string): void {
  const { kind, snapshot, faults } = correcting;
  const product = findProduct(snapshot, line.product, `${path}.product`, faults);
  const way = kind === 'loss' ? snapshot.places.get(codeKey(line.place)) : undefined;
  // What does not arrive is lost on its way.
  const place = way?.transit ? way : findPlace(snapshot, line.place, `${path}.place`, faults);
  if (!product || !place) return;
  if (kind === 'gain') gainLine(correcting, product, place, line, path);
  else takeOut(correcting, product, place, line, path);
}

function takeOut(
  { kind, snapshot, faults, rows, available, used }: Correcting,
  product: KnownProduct,
  place: KnownPlace,
  line: CorrectionLine,
  path: string
): void {
  const asked = {
    product,
    checkpoint: 'loss',
    named: line,
    only: place,
    first: null,
    path,
    mustBeUsable: false,
    mayBeInQuarantine: true
  } as const;
  const out = useMark(snapshot, available, used, asked, faults);
  if (!out) return;
  const unitCost = snapshot.costs.get(out.ref);
  for (const { place: from, quantity } of out.takings)
    rows.movements.push(
      costed({ mark: out.ref, placeId: from.id, quantity: opposite(quantity) }, unitCost)
    );
  rows.answer.push(out.ref);
  if (line.unitCost?.trim())
    faults.note(path, `A ${kind} takes the mark’s own cost; the one given is left out.`);
}

function gainLine(
  correcting: Correcting,
  product: KnownProduct,
  place: KnownPlace,
  line: CorrectionLine,
  path: string
): void {
  const { faults } = correcting;
  const identity = identify(product, line, 'gain', path, faults);
  if (!identity) return;
  const quantity =
    identity.kind === 'serial'
      ? serialQuantity(product, identity.number, line.quantity, path, faults)
      : lineQuantity(product, line.quantity ?? '', path, faults);
  const unitCost = readUnitCost(product, line.unitCost, `${path}.unitCost`, faults);
  if (!quantity || !mayBeGained(correcting, product, identity, path)) return;
  takeFound(correcting, { product, place, identity, quantity, with: line, unitCost, path });
}

/**
 * A serial is gained once, and only where the ledger has it nowhere.
 * Faults: mark.duplicate.
 */
function mayBeGained(
  { snapshot, faults, found }: Correcting,
  product: KnownProduct,
  { kind, number }: Identity,
  path: string
): boolean {
  if (kind !== 'serial') return true;
  const key = markKey(product.id, kind, number);
  const mark = findMark(snapshot, product, kind, number);
  const lies = mark && whereItLies(snapshot, mark);
  const twice = found.get(key);
  found.set(key, path);
  if (twice === undefined && !lies) return true;
  const message = lies
    ? `Serial ${number} of ${product.code} is on hand at ${lies}. Move it, or leave it out.`
    : `Serial ${number} is already gained at ${sayPath(twice!)}. Remove one of the two.`;
  faults.add('mark.duplicate', path, message, number);
  return false;
}
