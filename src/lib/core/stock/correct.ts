import { decided, emptyRows, type Decision, type MarkRef } from '../ledger/booking.ts';
import { Availability } from '../ledger/draw.ts';
import { Faults } from '../faults/fault.ts';
import { identify } from '../ledger/identity.ts';
import { lineQuantity } from '../ledger/line-quantity.ts';
import { findMark, findPlace, findProduct } from '../ledger/lookup.ts';
import { onePerLine, type Correction, type Wants } from '../ledger/request.ts';
import type { Snapshot } from '../ledger/snapshot.ts';
import { useMark } from '../ledger/use-mark.ts';

export const correctionWants = (request: Correction): Wants => ({
  products: request.lines.map((line) => line.product),
  places: request.lines.map((line) => line.place),
  // Scrap under a work order's number counts against that order.
  partner: null,
  order: request.kind === 'scrap' ? { kind: 'work', number: request.document } : null,
  marks: onePerLine(request.lines),
  draws: true
});

/**
 * Decides a gain, loss or scrap: what was counted differently or is destroyed. A gain adds only to
 * a lot or to what has no numbers; a serial that turns up again comes back by a return or a
 * reversal.
 * Faults: those of `useMark`, mark.unknown, quantity.mismatch, product.unknown, place.unknown.
 */
export function decideCorrection(snapshot: Snapshot, request: Correction): Decision {
  const faults = new Faults();
  const rows = emptyRows();
  rows.orderId = snapshot.order?.id ?? null;
  const available = new Availability(snapshot);
  const usedSerials = new Map<MarkRef, string>();
  request.lines.forEach((line, index) => {
    const path = `lines[${index}]`;
    const product = findProduct(snapshot, line.product, `${path}.product`, faults);
    const place = findPlace(snapshot, line.place, `${path}.place`, faults);
    if (!product || !place) return;
    if (request.kind !== 'gain') {
      const used = useMark(
        snapshot,
        available,
        usedSerials,
        {
          product,
          checkpoint: 'loss',
          named: line,
          only: place,
          first: null,
          path,
          mustBeUsable: false,
          mayBeInQuarantine: true
        },
        faults
      );
      for (const taking of used?.takings ?? [])
        rows.movements.push({
          mark: used!.ref,
          placeId: taking.place.id,
          quantity: taking.quantity.negated()
        });
      if (used) rows.answer.push(used.ref);
      return;
    }
    const identity = identify(product, line, 'gain', path, faults);
    if (!identity) return;
    const mark = findMark(snapshot, product, identity.kind, identity.number);
    if (!mark) {
      faults.add(
        'mark.unknown',
        path,
        `There is no ${identity.kind === 'bulk' ? product.code : `${identity.kind} ${identity.number} of ${product.code}`} to add to. Receive or build it.`,
        identity.number || product.code
      );
      return;
    }
    if (mark.kind === 'serial') {
      faults.add(
        'quantity.mismatch',
        path,
        `Serial ${mark.number} is one single unit and cannot be gained. Book its return, or undo the booking that took it.`,
        mark.number!
      );
      return;
    }
    const amount = lineQuantity(product, line.quantity ?? '', path, faults);
    if (!amount) return;
    rows.movements.push({ mark: mark.id, placeId: place.id, quantity: amount });
    rows.answer.push(mark.id);
  });
  return decided(rows, faults, snapshot);
}
