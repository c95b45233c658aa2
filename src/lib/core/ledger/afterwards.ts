import { ZERO, type Quantity } from '../quantity/quantity.ts';
import type { Rows } from './booking.ts';
import { codeKey, type Snapshot } from './snapshot.ts';

type Stock = Map<number, Map<string, Quantity>>;

/**
 * What is known after a booking that only moves what is there: its movements done, for the next
 * decision without the ledger. New marks are left out: they have no id yet.
 */
export function afterwards(known: Snapshot, rows: Rows): Snapshot {
  const codes = new Map([...known.places.values()].map(({ id, code }) => [id, codeKey(code)]));
  const stock: Stock = new Map(known.stock as ReadonlyMap<number, Map<string, Quantity>>);
  for (const { mark, placeId, quantity } of rows.movements) {
    const place = codes.get(placeId);
    if (mark < 0 || place === undefined) continue;
    const there = new Map(stock.get(mark));
    const after = (there.get(place) ?? ZERO).plus(quantity);
    if (after.isZero()) there.delete(place);
    else there.set(place, after);
    stock.set(mark, there);
  }
  return { ...known, stock };
}
