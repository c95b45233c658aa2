import { formatQuantity, opposite, type Quantity } from '../../quantity/quantity.ts';
import type { MarkRef } from '../booking.ts';
import { whereItLies } from '../lookup.ts';
import { codeKey, type KnownEvent } from '../snapshot.ts';
import { knownOf, movedOf, putBack, sayLater, sayMark, takeAway, tellMovedOn } from './undoing.ts';
import type { Undoing } from './undoing.ts';

/** Kinds that only carry goods from place to place. */
const CARRYING: ReadonlySet<string> = new Set(['move', 'put away', 'transfer']);

/** Marks that an event moved or changed and of which that was not taken back yet. */
export const movedBy = ({ movements, changes, takenBack }: KnownEvent): Set<MarkRef> =>
  new Set(
    [...movements, ...changes].map(({ mark }) => mark).filter((mark) => !takenBack.has(mark))
  );

/**
 * Goods that came, left or were carried: what came leaves again, what left lies again where it was.
 * Faults: event.moved-on.
 */
export function takeMovesBack(undoing: Undoing, chosen: ReadonlySet<MarkRef>): void {
  const { event, rows } = undoing;
  rows.reverses = { event: event.id, transformations: [] };
  for (const mark of chosen) {
    rows.answer.push(mark);
    const came = movedOf(undoing, mark, 'in');
    const left = movedOf(undoing, mark, 'out');
    // A count finds a serial at another place than it was kept at: that is carrying, too.
    const found = event.kind === 'count' && came.gt(0) && left.gt(0);
    if (found || CARRYING.has(event.kind)) carryBack(undoing, mark);
    else if (came.gt(0)) takeAway(undoing, mark, came);
    else if (left.gt(0) && mayComeBack(undoing, mark, left)) putBack(undoing, mark, left);
  }
}

/** From where it was carried to, and from nowhere else. */
function carryBack(undoing: Undoing, ref: MarkRef): void {
  const { snapshot, moved, rows, available } = undoing;
  for (const { place, quantity } of moved.get(ref) ?? []) {
    if (quantity.lte(0)) continue;
    const from = snapshot.places.get(codeKey(place));
    if (from && available.take(ref, quantity, from, null)) {
      rows.movements.push({ mark: ref, placeId: from.id, quantity: opposite(quantity) });
      continue;
    }
    const there = from ? available.amount(ref, from) : null;
    const { mark: known, product } = knownOf(undoing, ref);
    const what = `${sayMark(undoing, ref)} is no longer at ${place}`;
    const amount = `${formatQuantity(quantity)} ${product.unit} were put at ${place} and ${there ? formatQuantity(there) : '0'} are there`;
    const says = known.kind === 'serial' ? what : `${sayMark(undoing, ref)}: ${amount}`;
    tellMovedOn(undoing, ref, `${says}; ${sayLater(undoing, ref)}`);
  }
  putBack(undoing, ref, movedOf(undoing, ref, 'out'));
}

/** Whether what left may lie here again: of a shipment nothing came back, and no serial is twice. */
function mayComeBack(undoing: Undoing, ref: MarkRef, left: Quantity): boolean {
  const { snapshot, event, available } = undoing;
  const { mark, product } = knownOf(undoing, ref);
  if (event.kind === 'ship') {
    const sale = snapshot.sales.get(ref)?.find((one) => one.event === event.id);
    const back = left.minus(sale?.quantity ?? 0);
    if (back.gt(0)) {
      const says = `${formatQuantity(back)} ${product.unit} of ${sayMark(undoing, ref)} came back of this shipment`;
      tellMovedOn(undoing, ref, `${says}; ${sayLater(undoing, ref)}`);
      return false;
    }
  }
  if (mark.kind === 'serial' && available.amount(ref).gt(0)) {
    const lies = whereItLies(snapshot, mark);
    tellMovedOn(
      undoing,
      ref,
      `${sayMark(undoing, ref)} lies at ${lies}; ${sayLater(undoing, ref)}`
    );
    return false;
  }
  return true;
}
