import type { Faults } from '../faults/fault.ts';
import type { MarkRef } from '../ledger/booking.ts';
import { markNamed } from '../ledger/identity.ts';
import { findMark, findProduct } from '../ledger/lookup.ts';
import type { MarkNamed } from '../ledger/request.ts';
import type { KnownMark, KnownProduct, Snapshot } from '../ledger/snapshot.ts';
import type { Quantity } from '../quantity/quantity.ts';
import { insideOf } from './inside.ts';

/** A unit that has parts, with how much of each is in it. */
export interface Host {
  mark: KnownMark;
  product: KnownProduct;
  /** What is in it; less what the same booking took out so far. */
  inside: Map<MarkRef, Quantity>;
  /** What the same booking took out of it so far. */
  cameOut: Set<MarkRef>;
}

/**
 * The unit a request names.
 * @returns null after product.unknown, mark.missing or mark.unknown
 */
export function findHost(
  snapshot: Snapshot,
  faults: Faults,
  unit: MarkNamed & { product: string },
  path: string
): Host | null {
  const product = findProduct(snapshot, unit.product, `${path}.product`, faults);
  const named = product && markNamed(product, unit, path, faults);
  if (!product || !named) return null;
  const mark = named.kind === 'serial' && findMark(snapshot, product, 'serial', named.number);
  if (!mark) {
    const message =
      named.kind === 'serial'
        ? `There is no serial ${named.number} of ${product.code} ${product.name}. Check the number.`
        : `${product.code} ${named.number} is no single unit: parts are fitted into units with a serial.`;
    faults.add('mark.unknown', path, message, named.number || product.code);
    return null;
  }
  const inside = insideOf(snapshot.asBuilt.get(mark.id) ?? []);
  return { mark, product, inside, cameOut: new Set() };
}
