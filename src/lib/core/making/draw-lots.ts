import { soonestFirst, type Candidate } from '../stock/first-expired.ts';
import { formatQuantity, type Quantity } from '../quantity/quantity.ts';
import type { MarkRef } from '../ledger/booking.ts';
import type { Availability } from '../ledger/draw.ts';
import { isOfRevision } from './revision.ts';
import type { Faults } from '../faults/fault.ts';
import {
  isFree,
  markGroup,
  type KnownPlace,
  type KnownProduct,
  type Snapshot
} from '../ledger/snapshot.ts';

export interface DrawnLot {
  ref: MarkRef;
  quantity: Quantity;
  takings: { place: KnownPlace; quantity: Quantity }[];
}

/**
 * Draws so much of a product without a lot being named: first expired first over its lots, or from
 * the unmarked stock.
 * Held, rejected and expired lots are passed over, and those of another revision.
 * @param revision the one the bill asks for; null where any will do
 * @returns null after adding `stock.short`, saying what there is
 */
export function drawLots(
  snapshot: Snapshot,
  available: Availability,
  product: KnownProduct,
  wanted: Quantity,
  first: KnownPlace | null,
  revision: string | null,
  path: string,
  faults: Faults
): DrawnLot[] | null {
  const kinds = product.plan.identity === 'none' ? (['bulk'] as const) : (['lot', 'bulk'] as const);
  const candidates = kinds
    .flatMap((kind) => [...(snapshot.marks.get(markGroup(product.id, kind))?.values() ?? [])])
    .flatMap((mark): Candidate[] =>
      mark.state !== 'usable' ||
      (mark.expires !== null && mark.expires < snapshot.day) ||
      (revision !== null && !isOfRevision(snapshot, mark, revision))
        ? []
        : [
            {
              id: mark.id,
              number: mark.number ?? '',
              quantity: formatQuantity(available.free(mark.id)),
              expires: mark.expires,
              since: mark.bornOn,
              state: mark.state
            }
          ]
    );
  const drawn: DrawnLot[] = [];
  let open = wanted;
  for (const { id } of candidates.sort(soonestFirst)) {
    if (open.lte(0)) break;
    const there = available.free(id);
    if (there.lte(0)) continue;
    const part = there.lt(open) ? there : open;
    const takings = available.take(id, part, null, first, isFree);
    if (!takings) continue;
    drawn.push({ ref: id, quantity: part, takings });
    open = open.minus(part);
  }
  if (open.lte(0)) return drawn;
  faults.add(
    'stock.short',
    path,
    `${product.code} ${product.name} is short: ${formatQuantity(wanted)} ${product.unit} are to be drawn and ${formatQuantity(wanted.minus(open))} are usable on hand${revision === null ? '' : ` in revision ${revision}`}. Receive or release some, or make less.`,
    product.code
  );
  return null;
}
