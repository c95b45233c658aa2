import { Faults } from '../faults/fault.ts';
import { decided, emptyRows, type Decision } from '../ledger/booking.ts';
import { Availability } from '../ledger/draw.ts';
import { findMark, findPartner, findProduct } from '../ledger/lookup.ts';
import type { Wants } from '../ledger/request.ts';
import type { Snapshot } from '../ledger/snapshot.ts';
import { MINUS_ONE, ONE } from '../quantity/quantity.ts';

/** Parts that go to the supplier they are claimed on. */
export interface Claimed {
  document: string;
  supplier: string;
  parts: { product: string; serial: string }[];
}

export const claimedWants = ({ supplier, parts }: Claimed): Wants => ({
  products: parts.map((part) => part.product),
  places: [],
  partner: supplier,
  order: null,
  marks: parts.map(({ product, serial }) => ({ product, marks: [{ serial }] })),
  draws: true
});

/**
 * Decides sending claimed parts away: each from where it lies, held or not, as nobody is to use what
 * is claimed. What does not lie here any more is left out: it may have been scrapped, or sent before.
 * Faults: partner.unknown, product.unknown, mark.unknown.
 */
export function decideClaimed(snapshot: Snapshot, { supplier, parts }: Claimed): Decision {
  const faults = new Faults();
  const rows = emptyRows();
  const available = new Availability(snapshot);
  rows.partnerId = findPartner(snapshot, supplier, 'supplier', 'supplier', faults)?.id ?? null;
  parts.forEach((claimed, at) => {
    const path = `parts[${at}]`;
    const product = findProduct(snapshot, claimed.product, `${path}.product`, faults);
    const mark = product && findMark(snapshot, product, 'serial', claimed.serial);
    if (!product) return;
    if (!mark) {
      const message = `There is no serial ${claimed.serial} of ${product.code}. Check the number.`;
      faults.add('mark.unknown', path, message, claimed.serial);
      return;
    }
    const [lies] = available.take(mark.id, ONE, null, null) ?? [];
    if (!lies) return;
    rows.movements.push({ mark: mark.id, placeId: lies.place.id, quantity: MINUS_ONE });
    rows.answer.push(mark.id);
  });
  return decided(rows, faults, snapshot);
}
