import { decided, emptyRows, type Decision, type MarkRef } from '../ledger/booking.ts';
import { Availability } from '../ledger/draw.ts';
import { Faults } from '../faults/fault.ts';
import { findPlace, findProduct } from '../ledger/lookup.ts';
import { onePerLine, type Move, type Wants } from '../ledger/request.ts';
import { codeKey, type Snapshot } from '../ledger/snapshot.ts';
import { useMark } from '../ledger/use-mark.ts';

export const moveWants = (request: Move): Wants => ({
  products: request.lines.map((line) => line.product),
  places: request.lines.flatMap((line) => [line.from, line.to]),
  partner: null,
  order: null,
  marks: onePerLine(request.lines),
  draws: true
});

/**
 * Decides a move between places, or putting away what came in: the same marks, elsewhere. Held and
 * expired goods may move, as to quarantine they must. A lot may be split over several places, a
 * line for each.
 * Faults: those of `useMark`, product.unknown, place.unknown.
 */
export function decideMove(snapshot: Snapshot, request: Move): Decision {
  const faults = new Faults();
  const rows = emptyRows();
  const available = new Availability(snapshot);
  const usedSerials = new Map<MarkRef, string>();
  request.lines.forEach((line, index) => {
    const path = `lines[${index}]`;
    const product = findProduct(snapshot, line.product, `${path}.product`, faults);
    const from = findPlace(snapshot, line.from, `${path}.from`, faults);
    const to = findPlace(snapshot, line.to, `${path}.to`, faults);
    if (!product || !from || !to) return;
    if (codeKey(from.code) === codeKey(to.code)) {
      faults.add(
        'place.unknown',
        `${path}.to`,
        `It lies at ${from.code} already. Name another place, or leave the row out.`,
        to.code
      );
      return;
    }
    const used = useMark(
      snapshot,
      available,
      usedSerials,
      {
        product,
        checkpoint: request.kind,
        named: line,
        only: from,
        first: null,
        path,
        mustBeUsable: false,
        mayBeInQuarantine: true
      },
      faults
    );
    if (!used) return;
    rows.movements.push(
      { mark: used.ref, placeId: from.id, quantity: used.quantity.negated() },
      { mark: used.ref, placeId: to.id, quantity: used.quantity }
    );
    rows.answer.push(used.ref);
  });
  return decided(rows, faults, snapshot);
}

/** Whether anything is moved out of quarantine to where it would be free. */
export function leavesQuarantine({ places }: Snapshot, { lines }: Move): boolean {
  const isQuarantine = (code: string) => places.get(codeKey(code))?.quarantine ?? false;
  return lines.some(({ from, to }) => isQuarantine(from) && !isQuarantine(to));
}
