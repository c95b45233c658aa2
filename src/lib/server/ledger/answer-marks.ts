import type { Rows } from '../../core/ledger/booking.ts';
import type { Snapshot } from '../../core/ledger/snapshot.ts';
import { formatQuantity, ONE, ZERO, type Quantity } from '../../core/quantity/quantity.ts';
import { withUnit } from './mark-record.ts';
import { type MarkRecord } from '../../core/ledger/mark-record.ts';

/**
 * The records of the marks a booking answers with, worked out from what it knew and what it writes:
 * while others wait for its stock, ten thousand marks need not be read again.
 * @returns null where the booking makes marks, changes what a record shows, or has to do with what
 * is under way: then they are read
 */
export function answerMarks(snapshot: Snapshot, rows: Rows): MarkRecord[] | null {
  if (
    rows.newMarks.length > 0 ||
    rows.changes.length > 0 ||
    rows.identified.movements.length > 0 ||
    rows.scrapped !== null ||
    [...snapshot.places.values()].some((place) => place.transit)
  )
    return null;
  const moved = new Map<number, Quantity>();
  for (const { mark, quantity } of rows.movements) {
    const before = moved.get(mark);
    moved.set(mark, before ? before.plus(quantity) : quantity);
  }
  const products = new Map([...snapshot.products.values()].map((product) => [product.id, product]));
  const records: MarkRecord[] = [];
  for (const id of rows.answer) {
    const mark = snapshot.marksById.get(id),
      product = mark && products.get(mark.productId),
      lot = mark?.lotId == null ? null : snapshot.marksById.get(mark.lotId);
    if (!mark || product === undefined || lot === undefined) return null;
    records.push(
      withUnit({
        id,
        product: product.code,
        unit: product.unit,
        kind: mark.kind,
        number: mark.number,
        lot: lot?.number ?? null,
        supplier_number: mark.supplierNumber,
        made_on: mark.made,
        expires_on: mark.expires,
        retest_on: mark.retest,
        facts: mark.facts,
        state: mark.state,
        on_hand: onHand(snapshot.stock.get(id), moved.get(id))
      })
    );
  }
  return records;
}

/** What lies at all places together, with what the booking moves. */
function onHand(
  places: ReadonlyMap<string, Quantity> | undefined,
  moved: Quantity | undefined
): string {
  let sum = moved ?? ZERO;
  // A serial that leaves: the common case of ten thousand, without arithmetic.
  if (places?.size === 1 && moved?.eq(-1)) {
    const [there] = places.values();
    if (there!.eq(ONE)) return '0';
  }
  for (const there of places?.values() ?? []) sum = sum.plus(there);
  return formatQuantity(sum);
}
