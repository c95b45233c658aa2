import type { MarkRef } from '../ledger/booking.ts';
import type { PartInside } from '../ledger/snapshot.ts';
import { isAny, ONE, type Quantity } from '../quantity/quantity.ts';

/**
 * What is in so much of a unit or lot: of a lot its share of all that went in, and no more than did
 * not come out before. A share that has no finite decimal is rounded to what the ledger keeps.
 */
export function insideOf(
  parts: readonly PartInside[],
  taken: Quantity = ONE
): Map<MarkRef, Quantity> {
  const inside = new Map<MarkRef, Quantity>();
  for (const part of parts) {
    const there = part.left === ONE && part.made === taken ? ONE : shareOf(part, taken);
    if (isAny(there)) inside.set(part.mark, there);
  }
  return inside;
}

function shareOf({ wentIn, left, made }: PartInside, taken: Quantity): Quantity {
  const share = made.gt(taken) ? wentIn.times(taken).div(made) : wentIn;
  return (share.lt(left) ? share : left).toDecimalPlaces(6);
}
