import type { Bill } from '../catalogue/bill.ts';
import { revisionOf } from '../catalogue/facts.ts';
import { codeKey, type KnownMark, type KnownProduct, type Snapshot } from '../ledger/snapshot.ts';

/** The revision a bill asks of a part; null where it takes any. */
export function revisionAsked(bill: Bill | null, product: KnownProduct): string | null {
  const part = bill?.parts.find(
    (one) => one.revision !== null && codeKey(one.product) === codeKey(product.code)
  );
  return part?.revision ?? null;
}

/** The revision a mark's facts name, or those of the lot it is within; null where none do. */
export function revisionOfMark(snapshot: Snapshot, mark: KnownMark): string | null {
  const lot = mark.lotId === null ? undefined : snapshot.marksById.get(mark.lotId);
  return revisionOf(mark.facts) ?? revisionOf(lot?.facts ?? {});
}

export const isOfRevision = (snapshot: Snapshot, mark: KnownMark, asked: string): boolean =>
  revisionOfMark(snapshot, mark)?.toUpperCase() === asked.toUpperCase();
