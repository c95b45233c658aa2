import { quantity, ZERO, type Quantity } from '../quantity/quantity.ts';
import { inWalkingOrder } from './pick-order.ts';

/** What of a mark an order line still has to have fetched. */
export interface ToFetch {
  line: number;
  mark: number;
  /** Decimal string. */
  wanted: string;
}

/** What of a mark lies at a place. */
export interface LyingAt {
  mark: number;
  placeId: number;
  place: string;
  /** Decimal string. */
  here: string;
}

export interface LaidStop {
  line: number;
  mark: number;
  placeId: number;
  quantity: Quantity;
}

/**
 * Where to fetch what is wanted, place by place as somebody walks them; what an earlier line takes
 * is not there for a later one. What lies nowhere gets no stop.
 */
export function layStops(wanted: readonly ToFetch[], lying: readonly LyingAt[]): LaidStop[] {
  const open = wanted.map((one) => quantity(one.wanted));
  const stops: LaidStop[] = [];
  const walked = inWalkingOrder(lying.map((one) => ({ ...one, product: '', number: null })));
  for (const { mark, placeId, here } of walked) {
    let left = quantity(here);
    for (const [at, one] of wanted.entries()) {
      if (one.mark !== mark) continue;
      const part = least(open[at]!, left);
      if (part.lte(ZERO)) continue;
      open[at] = open[at]!.minus(part);
      left = left.minus(part);
      stops.push({ line: one.line, mark, placeId, quantity: part });
    }
  }
  return stops;
}

const least = (a: Quantity, b: Quantity): Quantity => (a.lt(b) ? a : b);
