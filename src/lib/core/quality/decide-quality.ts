import { decided, emptyRows, type Decision } from '../ledger/booking.ts';
import { Faults } from '../faults/fault.ts';
import { markNamed } from '../ledger/identity.ts';
import { findMark, findProduct, nameOf } from '../ledger/lookup.ts';
import { onePerLine, type QualityDecision, type Wants } from '../ledger/request.ts';
import type { Snapshot } from '../ledger/snapshot.ts';
import type { MarkState } from '../catalogue/marking.ts';

export const qualityWants = (request: QualityDecision): Wants => ({
  products: request.marks.map((mark) => mark.product),
  places: [],
  partner: null,
  order: null,
  marks: onePerLine(request.marks),
  draws: true
});

const BECOMES: Record<QualityDecision['kind'], MarkState> = {
  hold: 'held',
  release: 'usable',
  reject: 'rejected'
};

/**
 * Decides a hold, a release or a rejection of marks. Asking for the state a mark is in already
 * changes nothing and is a note.
 * A rejected mark can be held again (to look at it anew) but not released at one go.
 * Faults: mark.unknown, mark.missing, mark.rejected, number.malformed, product.unknown.
 */
export function decideQuality(snapshot: Snapshot, request: QualityDecision): Decision {
  const faults = new Faults();
  const rows = emptyRows();
  const named = new Set<number>();
  request.marks.forEach((given, index) => {
    const path = `marks[${index}]`;
    const product = findProduct(snapshot, given.product, `${path}.product`, faults);
    if (!product) return;
    // A whole lot of a product kept by serial within lot is held by naming the lot alone.
    const identity = markNamed(product, given, path, faults);
    if (!identity) return;
    const mark = findMark(snapshot, product, identity.kind, identity.number);
    if (!mark) {
      faults.add(
        'mark.unknown',
        path,
        `There is no ${identity.kind} ${identity.number} of ${product.code} ${product.name}. Check the number.`,
        identity.number
      );
      return;
    }
    const to = BECOMES[request.kind];
    if (named.has(mark.id)) return;
    named.add(mark.id);
    rows.answer.push(mark.id);
    if (mark.state === to)
      faults.note(path, `${nameOf(mark, product)} is ${to} already.`, mark.number ?? undefined);
    else if (mark.state === 'rejected' && to === 'usable')
      faults.add(
        'mark.rejected',
        path,
        `${nameOf(mark, product)} is rejected. Hold it first, then release it.`,
        mark.number ?? undefined
      );
    else rows.changes.push({ mark: mark.id, field: 'state', from: mark.state, to });
  });
  return decided(rows, faults, snapshot);
}
