import { formatQuantity, total } from '../quantity/quantity.ts';
import type { Availability } from './draw.ts';
import type { Faults } from '../faults/fault.ts';
import { nameOf, productOf } from './lookup.ts';
import { codeKey, type Snapshot } from './snapshot.ts';

/**
 * Sees that what is left of every mark a booking took from still covers what others were promised.
 * Going on in spite of a promise takes a written reason, whatever the plan says.
 * @param taken marks with the first path they were used at
 * @param own the order of the booking; what it was promised itself is its own
 */
export function checkPromises(
  snapshot: Snapshot,
  available: Availability,
  taken: ReadonlyMap<number, string>,
  own: string,
  faults: Faults
): void {
  for (const [id, path] of taken) {
    const others = (snapshot.promised.get(id) ?? []).filter(
      (promise) => codeKey(promise.order) !== codeKey(own)
    );
    if (others.length === 0) continue;
    const promised = total(others.map((promise) => promise.quantity)),
      left = available.free(id);
    if (left.gte(promised)) continue;
    const mark = snapshot.marksById.get(id)!;
    const product = productOf(snapshot, mark.productId);
    const whom = others
      .map((promise) => `${promise.order}${promise.partner ? ` for ${promise.partner}` : ''}`)
      .join(', ');
    const message =
      mark.kind === 'serial'
        ? `${nameOf(mark, product)} of ${product.code} is promised to ${whom}. Take another, or have the promise taken back.`
        : `${nameOf(mark, product)} of ${product.code}: ${formatQuantity(promised)} ${product.unit} are promised to ${whom}, and ${formatQuantity(left)} would be left. Take less, take another, or have the promise taken back.`;
    faults.answerWithReason('mark.reserved', path, message, mark.number ?? product.code);
  }
}
