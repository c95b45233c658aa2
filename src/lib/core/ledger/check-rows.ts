import type { Fault } from '../faults/fault.ts';
import { numberKey } from '../numbers/number.ts';
import { formatQuantity, MINUS_ONE, ONE, ZERO, type Quantity } from '../quantity/quantity.ts';
import type { MarkRef, MovementRow, Rows, TransformationRow } from './booking.ts';
import { pathOf } from './path-of.ts';
import { codeKey, markGroup, markKey, type KnownProduct, type Snapshot } from './snapshot.ts';

/** Most decimals a quantity is kept with. */
const FINEST = 6;

/** What the rows say of a mark, as far as the check asks. */
interface Checked {
  product: KnownProduct | undefined;
  serial: boolean;
  number: string | null;
}

/** Everything the check looks at, and where it puts what it finds. */
interface Checking {
  snapshot: Snapshot;
  rows: Rows;
  request: object;
  faults: Fault[];
  /** By id: looked up for every row of a booking, which may name thousands of products. */
  products: ReadonlyMap<number, KnownProduct>;
}

/**
 * What no booking may do, of whatever kind: the last look at its rows before they are written. A
 * decision tells of these things in better words where it knows them; what it lets through is
 * refused here with a fault and its path, and never reaches the database's own laws.
 * @returns no fault where the rows may be written
 */
export function checkRows(snapshot: Snapshot, rows: Rows, request: object): Fault[] {
  const products = new Map([...snapshot.products.values()].map((one) => [one.id, one]));
  const checking: Checking = { snapshot, rows, request, faults: [], products };
  changedOnce(checking);
  bornOnce(checking);
  wholeQuantities(checking);
  nothingOfItself(checking);
  namedOnceInATie(checking);
  noMoreThanThere(checking);
  noMoreBackThanLeft(checking);
  return checking.faults;
}

/** The mark a row means: one that is known, or one the booking makes. */
function markOf({ snapshot, rows, products }: Checking, ref: MarkRef): Checked {
  const fresh = ref < 0 ? rows.newMarks[-ref - 1] : undefined;
  const mark = fresh ?? snapshot.marksById.get(ref);
  return {
    product: mark && products.get(mark.productId),
    serial: mark?.kind === 'serial',
    number: mark?.number ?? null
  };
}

function tell(
  { request, faults }: Checking,
  code: Fault['code'],
  mark: Checked,
  says: (name: string) => string
): void {
  const product = mark.product?.code ?? 'it';
  const number = mark.number ?? product;
  const name = mark.number === null ? product : `${mark.number} of ${product}`;
  const path = pathOf(request, mark.number ?? mark.product?.code ?? '');
  faults.push({ code, path, number, message: says(name) });
}

/** A mark's field changes once in a booking: of two changes nobody could say which holds. */
function changedOnce(checking: Checking): void {
  const seen = new Set<string>();
  for (const { mark, field, fact } of checking.rows.changes) {
    const key = `${mark} ${field} ${fact === undefined ? '' : codeKey(fact)}`;
    if (seen.has(key))
      tell(
        checking,
        'mark.duplicate',
        markOf(checking, mark),
        (name) => `${name} is changed twice in one booking. Say it once.`
      );
    seen.add(key);
  }
}

/** A number is born once, and not where it is known already. */
function bornOnce(checking: Checking): void {
  const born = new Set<string>();
  checking.rows.newMarks.forEach((mark, at) => {
    const key =
      mark.number === null
        ? `${mark.productId} bulk`
        : markKey(mark.productId, mark.kind, mark.number);
    if (born.has(key) || isKnown(checking.snapshot, mark))
      tell(
        checking,
        'mark.duplicate',
        markOf(checking, -at - 1),
        (name) => `${name} would come to be twice. Name it once, or give another number.`
      );
    born.add(key);
  });
}

const isKnown = (
  { marks }: Snapshot,
  { productId, kind, number }: Rows['newMarks'][number]
): boolean => marks.get(markGroup(productId, kind))?.has(numberKey(number ?? '')) ?? false;

/** No part of a serial, nothing finer than its product is counted, and nothing of no amount. */
function wholeQuantities(checking: Checking): void {
  const { rows } = checking;
  for (const { mark, quantity } of movementsOf(rows)) whole(checking, mark, quantity);
  for (const tie of tiesOf(rows))
    for (const { mark, quantity } of [...tie.inputs, ...tie.outputs]) {
      if (quantity.lte(0)) nothing(checking, mark);
      else whole(checking, mark, quantity);
    }
  for (const { mark, quantity } of rows.packings)
    if (mark !== undefined) whole(checking, mark, quantity);
}

function whole(checking: Checking, mark: MarkRef, quantity: Quantity): void {
  if (quantity === ONE || quantity === MINUS_ONE) return;
  const of = markOf(checking, mark);
  if (of.serial && !quantity.abs().eq(1)) {
    tell(
      checking,
      'quantity.not-whole',
      of,
      (name) => `Serial ${name} is one, and ${formatQuantity(quantity)} of it are given. Give 1.`
    );
    return;
  }
  const decimals = Math.min(of.product?.decimals ?? FINEST, FINEST);
  if (quantity.isZero()) nothing(checking, mark);
  else if (quantity.decimalPlaces() > decimals)
    tell(checking, 'quantity.not-whole', of, (name) => {
      const finest = decimals === 0 ? 'whole' : `with ${decimals} decimals`;
      return `${name} is counted ${finest}, and ${formatQuantity(quantity)} is given.`;
    });
}

const nothing = (checking: Checking, mark: MarkRef): void =>
  tell(
    checking,
    'quantity.mismatch',
    markOf(checking, mark),
    (name) => `Of ${name} nothing would be booked. Give a quantity, or leave it out.`
  );

/**
 * Nothing is made of itself: where it is, a trace would go round and round. A unit that is reworked
 * keeps its number, goes in and comes out.
 */
function nothingOfItself(checking: Checking): void {
  for (const { inputs, outputs } of tiesOf(checking.rows)) {
    const used = new Set(inputs.map(({ mark }) => mark));
    for (const { mark } of outputs)
      if (used.has(mark) && !markOf(checking, mark).serial)
        tell(
          checking,
          'mark.duplicate',
          markOf(checking, mark),
          (name) => `${name} would be made of itself. Give what comes out another number.`
        );
  }
}

/** A mark stands once among what goes in and once among what comes out. */
function namedOnceInATie(checking: Checking): void {
  for (const { inputs, outputs } of tiesOf(checking.rows))
    for (const side of [inputs, outputs]) {
      const seen = new Set<MarkRef>();
      for (const { mark } of side) {
        if (seen.has(mark))
          tell(
            checking,
            'mark.duplicate',
            markOf(checking, mark),
            (name) => `${name} is named twice where it goes in or comes out. Name it once.`
          );
        seen.add(mark);
      }
    }
}

/** Nothing leaves a place that is not there, and a serial lies at one place. */
function noMoreThanThere(checking: Checking): void {
  const { snapshot, rows } = checking;
  const codeOf = new Map([...snapshot.places.values()].map(({ id, code }) => [id, codeKey(code)]));
  const doubtful = marksInDoubt(checking, codeOf);
  const change = new Map<MarkRef, Map<string, Quantity>>();
  for (const { mark, placeId, quantity } of doubtful.size > 0 ? movementsOf(rows) : []) {
    if (!doubtful.has(mark)) continue;
    const places = change.get(mark) ?? new Map<string, Quantity>();
    const code = codeOf.get(placeId) ?? String(placeId);
    places.set(code, (places.get(code) ?? ZERO).plus(quantity));
    change.set(mark, places);
  }
  for (const [mark, places] of change) {
    const there = snapshot.stock.get(mark);
    const left = [...places].map(([code, moved]) => (there?.get(code) ?? ZERO).plus(moved));
    if (left.some((quantity) => quantity.lt(0)))
      tell(
        checking,
        'stock.short',
        markOf(checking, mark),
        (name) => `More of ${name} would leave than is there. Take less.`
      );
  }
}

/**
 * Marks of which it must be added up whether they are there. A serial that leaves once, from where
 * it lies, is there: nearly every row of a long sheet.
 */
function marksInDoubt(
  { snapshot, rows }: Checking,
  codeOf: ReadonlyMap<number, string>
): ReadonlySet<MarkRef> {
  const plain = new Set<MarkRef>(),
    doubtful = new Set<MarkRef>();
  for (const { mark, placeId, quantity } of movementsOf(rows)) {
    if (!quantity.isNegative()) continue;
    const here = snapshot.stock.get(mark)?.get(codeOf.get(placeId) ?? '');
    if (quantity === MINUS_ONE && here === ONE && !plain.has(mark)) plain.add(mark);
    else doubtful.add(mark);
  }
  return doubtful;
}

/** No shipment takes more back than left by it. */
function noMoreBackThanLeft(checking: Checking): void {
  const { snapshot, rows } = checking;
  const back = new Map<string, { mark: MarkRef; shipment: number; quantity: Quantity }>();
  for (const { mark, shipmentId, quantity } of rows.returned) {
    const key = `${mark} ${shipmentId}`;
    const before = back.get(key)?.quantity ?? ZERO;
    back.set(key, { mark, shipment: shipmentId, quantity: before.plus(quantity) });
  }
  for (const { mark, shipment, quantity } of back.values()) {
    const sale = snapshot.sales.get(mark)?.find(({ event }) => event === shipment);
    if (sale && quantity.gt(sale.quantity))
      tell(
        checking,
        'quantity.mismatch',
        markOf(checking, mark),
        (name) =>
          `${formatQuantity(quantity)} of ${name} would come back and ${formatQuantity(sale.quantity)} are out by ${sale.document}. Take less back.`
      );
  }
}

/** All that a booking moves, in all events it writes. */
export function* movementsOf({ movements, identified, scrapped }: Rows): Iterable<MovementRow> {
  yield* identified.movements;
  yield* movements;
  if (scrapped) yield* scrapped.movements;
}

function* tiesOf({ transformations, identified }: Rows): Iterable<TransformationRow> {
  yield* identified.transformations;
  yield* transformations;
}
