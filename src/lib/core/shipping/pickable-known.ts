import { numberKey } from '../numbers/number.ts';
import { formatQuantity } from '../quantity/quantity.ts';
import { standingOf } from '../ledger/lookup.ts';
import { isFree, type KnownMark, type KnownProduct, type Snapshot } from '../ledger/snapshot.ts';
import type { Pickable, PickablePlace, PickRecord } from './pick-record.ts';

/**
 * The mark a number means, as far as it is known here, of those an order can want. Goods without
 * number are meant by their product's code.
 * @returns null where nothing of that number is known here
 */
export function pickableKnown(
  known: Snapshot,
  picks: readonly PickRecord[],
  number: string
): Pickable | null {
  const products = new Map([...known.products.values()].map((one) => [one.id, one]));
  const listed = new Set(picks.map((pick) => pick.product));
  const key = numberKey(number);
  const found = [...known.marksById.values()].flatMap((mark) => {
    const product = products.get(mark.productId);
    const isIt = product && numberKey(mark.number ?? product.code) === key;
    return isIt ? [pickable(known, mark, product)] : [];
  });
  return found.find((one) => listed.has(one.product)) ?? found[0] ?? null;
}

/** An order other than this one that a mark is promised to whole; null where there is none. */
export function promisedElsewhere(known: Snapshot, mark: number, order: string): string | null {
  const promises = known.promised.get(mark) ?? [];
  return promises.find((one) => one.order !== order)?.order ?? null;
}

function pickable(known: Snapshot, mark: KnownMark, product: KnownProduct): Pickable {
  const { state, expires } = standingOf(known, mark);
  return {
    id: mark.id,
    productId: product.id,
    kind: mark.kind,
    number: mark.number ?? product.code,
    product: product.code,
    name: product.name,
    unit: product.unit,
    state,
    expires,
    places: placesOf(known, mark.id)
  };
}

function placesOf(known: Snapshot, mark: number): PickablePlace[] {
  const there = [...(known.stock.get(mark) ?? [])].flatMap(([code, quantity]) => {
    const place = known.places.get(code);
    const isThere = place !== undefined && isFree(place);
    return isThere ? [{ id: place.id, code: place.code, quantity: formatQuantity(quantity) }] : [];
  });
  return there.sort((a, b) => (a.code < b.code ? -1 : 1));
}
