import { Faults } from '../faults/fault.ts';
import { Births } from '../ledger/birth.ts';
import { decided, emptyRows, type Decision } from '../ledger/booking.ts';
import { Availability } from '../ledger/draw.ts';
import { identify, type Identity } from '../ledger/identity.ts';
import { findMark, findPlace, findProduct, nameOf } from '../ledger/lookup.ts';
import {
  onePerLine,
  type CountApproval,
  type CountDifference,
  type Wants
} from '../ledger/request.ts';
import type { KnownPlace, KnownProduct, Snapshot } from '../ledger/snapshot.ts';
import { formatQuantity, parseQuantity, ZERO, type Quantity } from '../quantity/quantity.ts';
import { takeFound, type Finding } from './found.ts';
import { costed, readUnitCost } from './unit-cost.ts';

export const countWants = (request: CountApproval): Wants => ({
  products: request.lines.map((line) => line.product),
  places: request.lines.map((line) => line.place),
  partner: null,
  order: null,
  marks: onePerLine(request.lines),
  draws: true,
  costs: true
});

/** A difference whose product, place and mark are known. */
interface Off {
  line: CountDifference;
  product: KnownProduct;
  place: KnownPlace;
  identity: Identity;
  /** Above zero where more lies there than was known. */
  by: Quantity;
  path: string;
}

/**
 * Decides what a count comes to: by how much each number was off when it was counted. What moved
 * since moved goods and ledger alike, so the difference still holds; of a serial only one that is
 * still where it was is taken away, and only one that is nowhere is added.
 * Faults: stock.short where less is left than is missing, cost and birth faults, those of
 * `takeFound`.
 */
export function decideCount(snapshot: Snapshot, request: CountApproval): Decision {
  const faults = new Faults(request.reasons, snapshot.granted);
  const rows = emptyRows();
  const finding: Finding = {
    snapshot,
    faults,
    rows,
    births: new Births(snapshot, rows, faults),
    available: new Availability(snapshot)
  };
  const off = request.lines.flatMap((line, index) => readOff(finding, line, index) ?? []);
  // What was found first: a serial that lies elsewhere is not missing where it was.
  for (const one of off) if (one.by.gt(0)) found(finding, one);
  for (const one of off) if (one.by.lt(0)) missing(finding, one);
  return decided(rows, faults, snapshot);
}

function readOff({ snapshot, faults }: Finding, line: CountDifference, index: number): Off | null {
  const path = `lines[${index}]`;
  const product = findProduct(snapshot, line.product, `${path}.product`, faults);
  const place = findPlace(snapshot, line.place, `${path}.place`, faults);
  const counted = parseQuantity(line.counted);
  const seen = parseQuantity(line.seen);
  if (!product || !place || counted === null || seen === null) return null;
  const identity = identify(product, line, 'count', path, faults);
  return identity && { line, product, place, identity, by: counted.minus(seen), path };
}

function found(finding: Finding, { line, product, place, identity, by, path }: Off): void {
  const unitCost = readUnitCost(product, line.unitCost, `${path}.unitCost`, finding.faults);
  takeFound(finding, { product, place, identity, quantity: by, with: line, unitCost, path });
}

function missing({ snapshot, faults, rows, available }: Finding, off: Off): void {
  const { product, place, identity, path } = off;
  const mark = findMark(snapshot, product, identity.kind, identity.number);
  const there = mark ? available.amount(mark.id, place) : ZERO;
  if (!mark || (identity.kind === 'serial' && there.isZero())) return;
  const gone = off.by.negated();
  const taken = available.take(mark.id, gone, place, null);
  if (!taken) {
    const name = nameOf(mark, product);
    const message = `${formatQuantity(gone)} ${product.unit} of ${name} of ${product.code} were missing at ${place.code}, and only ${formatQuantity(there)} are left there now. Count it again.`;
    faults.add('stock.short', path, message, identity.number || product.code);
    return;
  }
  rows.answer.push(mark.id);
  rows.movements.push(
    costed({ mark: mark.id, placeId: place.id, quantity: off.by }, snapshot.costs.get(mark.id))
  );
}
