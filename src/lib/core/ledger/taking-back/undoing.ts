import { sayDay } from '../../calendar/say-day.ts';
import type { Faults } from '../../faults/fault.ts';
import { ZERO, formatQuantity, opposite, total, type Quantity } from '../../quantity/quantity.ts';
import type { MarkRef, Rows } from '../booking.ts';
import type { Availability } from '../draw.ts';
import { nameOf } from '../lookup.ts';
import {
  codeKey,
  type KnownEvent,
  type KnownMark,
  type KnownMovement,
  type KnownProduct,
  type Snapshot
} from '../snapshot.ts';
import { sayGone } from '../use-mark.ts';

/** One event being taken back: what is known, what is there, and what has come of it so far. */
export interface Undoing {
  snapshot: Snapshot;
  event: KnownEvent;
  rows: Rows;
  faults: Faults;
  available: Availability;
  products: ReadonlyMap<number, KnownProduct>;
  /** What the event moved, by mark. */
  moved: ReadonlyMap<MarkRef, readonly KnownMovement[]>;
  /** Where the booking takes each mark away, for what others were promised of it. */
  taken: Map<MarkRef, string>;
}

export const knownOf = (
  { snapshot, products }: Undoing,
  ref: MarkRef
): { mark: KnownMark; product: KnownProduct } => {
  const mark = snapshot.marksById.get(ref)!;
  return { mark, product: products.get(mark.productId)! };
};

/** `Lot L-7 of RES`, `Unmarked BOLT`. */
export function sayMark(undoing: Undoing, ref: MarkRef): string {
  const { mark, product } = knownOf(undoing, ref);
  const name = nameOf(mark, product);
  return mark.kind === 'bulk' ? name : `${name} of ${product.code}`;
}

/** What touched a mark after the event, as the end of a sentence. */
export function sayLater({ event }: Undoing, ref: MarkRef): string {
  const later = event.later.get(ref);
  return later
    ? `${later.kind} ${later.document} of ${sayDay(later.day)} came after it. Take that back first.`
    : 'Take that back first.';
}

/** A fault of a mark that has moved on, with the event that stands in the way. */
export function tellMovedOn(undoing: Undoing, ref: MarkRef, message: string): void {
  const { mark, product } = knownOf(undoing, ref);
  const later = undoing.event.later.get(ref)?.event;
  undoing.faults.inTheWay('event', message, mark.number ?? product.code, later);
}

/**
 * What the event brought in leaves again: from where it was put, then from wherever else it lies.
 * Faults: event.moved-on where it is no longer here, or stands in a carton.
 * @param came how much of the mark the event brought in
 */
export function takeAway(undoing: Undoing, ref: MarkRef, came: Quantity): void {
  const { snapshot, moved, rows, available } = undoing;
  const put = moved.get(ref)?.find((one) => one.quantity.gt(0));
  const first = put ? (snapshot.places.get(codeKey(put.place)) ?? null) : null;
  const takings = available.take(ref, came, null, first);
  if (!takings) return tellGone(undoing, ref, came);
  for (const { place, quantity } of takings)
    rows.movements.push({ mark: ref, placeId: place.id, quantity: opposite(quantity) });
  undoing.taken.set(ref, 'event');
  leftInCartons(undoing, ref);
}

/** What stands in a carton is taken out before what brought it in is taken back. */
function leftInCartons(undoing: Undoing, ref: MarkRef): void {
  const packed = undoing.snapshot.packed.get(ref) ?? [];
  if (total(packed.map((row) => row.quantity)).lte(undoing.available.amount(ref))) return;
  const { mark, product } = knownOf(undoing, ref);
  const message = `${sayMark(undoing, ref)} stands in carton ${packed[0]!.sscc}. Take it out there first.`;
  undoing.faults.add('event.moved-on', 'event', message, mark.number ?? product.code);
}

function tellGone(undoing: Undoing, ref: MarkRef, came: Quantity): void {
  const { snapshot, available } = undoing;
  const { mark, product } = knownOf(undoing, ref);
  const name = sayMark(undoing, ref);
  const gone = snapshot.gone.get(ref);
  const there = available.amount(ref);
  const where = gone ? sayGone(gone) : null;
  if (mark.kind === 'serial' || there.isZero()) {
    const message = `${name} is no longer here: ${where ?? sayGone(undefined)}. Take that back first.`;
    return tellMovedOn(undoing, ref, message);
  }
  const amounts = `${formatQuantity(came)} ${product.unit} came by it and ${formatQuantity(there)} are on hand`;
  tellMovedOn(
    undoing,
    ref,
    `${name}: ${amounts}; the rest has moved on: ${sayLater(undoing, ref)}`
  );
}

/** How much an event moved of a mark, in or out. */
export function movedOf({ moved }: Undoing, ref: MarkRef, way: 'in' | 'out'): Quantity {
  const rows = (moved.get(ref) ?? []).filter(({ quantity }) => quantity.gt(0) === (way === 'in'));
  return rows.length === 0 ? ZERO : total(rows.map(({ quantity }) => quantity.abs()));
}

/** What was taken lies again where it was taken from, as far as so much is given back. */
export function putBack({ snapshot, moved, rows }: Undoing, ref: MarkRef, amount: Quantity): void {
  let open = amount;
  for (const { place, quantity } of moved.get(ref) ?? []) {
    if (quantity.gte(0) || open.lte(0)) continue;
    const part = quantity.abs().lt(open) ? quantity.abs() : open;
    const to = snapshot.places.get(codeKey(place));
    if (to) rows.movements.push({ mark: ref, placeId: to.id, quantity: part });
    open = open.minus(part);
  }
}
