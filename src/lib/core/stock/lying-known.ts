import { formatQuantity, type Quantity } from '../quantity/quantity.ts';
import { numberKey } from '../numbers/number.ts';
import { standingOf } from '../ledger/lookup.ts';
import type { KnownMark, KnownPlace, KnownProduct, Snapshot } from '../ledger/snapshot.ts';
import { codeKey } from '../ledger/snapshot.ts';
import type { Lying } from './lying.ts';

/** What is asked for: numbers, or all that lies at a place. */
export type LyingAskedFor = { numbers: readonly string[] } | { place: string };

/**
 * Where things lie, as far as it is known here: those of these numbers, or all at a place. What has
 * no number is found by its product's code.
 */
export function lyingKnown(known: Snapshot, asked: LyingAskedFor): Lying[] {
  const products = new Map([...known.products.values()].map((one) => [one.id, one]));
  const wanted = 'numbers' in asked ? new Set(asked.numbers.map(numberKey)) : null;
  const only = 'place' in asked ? codeKey(asked.place) : null;
  const rows: Lying[] = [];
  for (const [id, places] of known.stock) {
    const mark = known.marksById.get(id);
    const product = mark && products.get(mark.productId);
    if (!product || (wanted && !wanted.has(keyOf(mark, product)))) continue;
    for (const [code, quantity] of places) {
      const place = known.places.get(code);
      if (place && (only === null || code === only))
        rows.push(lying(known, mark, product, place, quantity));
    }
  }
  return rows;
}

const keyOf = (mark: KnownMark, product: KnownProduct): string =>
  numberKey(mark.number ?? product.code);

function lying(
  known: Snapshot,
  mark: KnownMark,
  product: KnownProduct,
  place: KnownPlace,
  quantity: Quantity
): Lying {
  const { lot, state } = standingOf(known, mark);
  return {
    mark: mark.id,
    kind: mark.kind,
    number: mark.number,
    lot: lot?.number ?? null,
    product: product.code,
    name: product.name,
    unit: product.unit,
    state,
    from: place.code,
    fromName: `${place.site}, ${place.name}`,
    quantity: formatQuantity(quantity)
  };
}
