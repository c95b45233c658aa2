import type { MarkRef } from '../ledger/booking.ts';
import type { PartInside } from '../ledger/snapshot.ts';
import { ONE, type Quantity } from '../quantity/quantity.ts';

/**
 * What is in so much of a unit or lot: of a lot its share of all that went in, and no more than did
 * not come out before. A share that has no finite decimal is rounded to what the ledger keeps.
 */
export function insideOf(
  parts: readonly PartInside[],
  taken: Quantity = ONE
): Map<MarkRef, Quantity> {
  return new Map(
    parts.flatMap(({ mark, wentIn, left, made }) => {
      const share = made.gt(taken) ? wentIn.times(taken).div(made) : wentIn;
      const there = (share.lt(left) ? share : left).toDecimalPlaces(6);
      return there.gt(0) ? [[mark, there] as const] : [];
    })
  );
}
