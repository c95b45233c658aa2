import type { KnownMark, KnownProduct, KnownUnit, Snapshot } from '../ledger/snapshot.ts';
import { findMark, nameOf, productOf } from '../ledger/lookup.ts';
import type { Used } from '../ledger/use-mark.ts';
import type { Going } from './tell-wishes.ts';

/** What wishes look at of a mark that is used; one that is born on the way has its lot's dates. */
export function goingOf(
  snapshot: Snapshot,
  product: KnownProduct,
  used: Used,
  path: string
): Going {
  if (used.mark) return ofMark(snapshot, product, used.mark, path);
  const { kind, number, lot: lotNumber } = used.identity;
  const lot = lotNumber === null ? null : findMark(snapshot, product, 'lot', lotNumber);
  return {
    product,
    name: nameOf({ kind, number }, product),
    number,
    lot: lotNumber,
    expires: lot?.expires ?? null,
    untested: lot !== null && snapshot.untested.has(lot.id),
    path
  };
}

/** What a carton holds already. */
export const insideOf = (snapshot: Snapshot, unit: KnownUnit): Going[] =>
  [...unit.contents]
    .filter(([, amount]) => amount.gt(0))
    .map(([id]) => {
      const mark = snapshot.marksById.get(id)!;
      const product = productOf(snapshot, mark.productId);
      return { ...ofMark(snapshot, product, mark, 'unit'), before: true };
    });

function ofMark(snapshot: Snapshot, product: KnownProduct, mark: KnownMark, path: string): Going {
  const lot = mark.lotId === null ? undefined : snapshot.marksById.get(mark.lotId);
  return {
    product,
    name: nameOf(mark, product),
    number: mark.number ?? product.code,
    lot: mark.kind === 'lot' ? mark.number : (lot?.number ?? null),
    expires: mark.expires ?? lot?.expires ?? null,
    untested: snapshot.untested.has(mark.id),
    path
  };
}
