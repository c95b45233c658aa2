import { sayDay } from '../calendar/say-day.ts';
import { Faults, type Reasons } from '../faults/fault.ts';
import { formatQuantity, total, ZERO, type Quantity } from '../quantity/quantity.ts';
import type { MarkRef, Rows } from './booking.ts';
import { movementsOf } from './check-rows.ts';
import { nameOf } from './lookup.ts';
import { pathOf } from './path-of.ts';
import type { KnownMark, KnownProduct, LaterMovement, Snapshot } from './snapshot.ts';

/**
 * Law 11: by its own dates, too, no mark is below zero. A booking that by its date takes what had
 * not come yet, or what was taken between then and now, is answered as the plan says.
 * Faults: time.order.
 */
export function tellOrderOfTime(
  snapshot: Snapshot,
  rows: Rows,
  request: { reasons?: Reasons }
): Faults {
  const faults = new Faults(request.reasons, snapshot.granted);
  if (snapshot.later.size === 0) return faults;
  const products = new Map([...snapshot.products.values()].map((one) => [one.id, one]));
  for (const [ref, change] of netOf(rows)) {
    const later = snapshot.later.get(ref);
    const mark = snapshot.marksById.get(ref);
    const product = mark && products.get(mark.productId);
    if (!later || !product || change.gte(0)) continue;
    const why = whyTooEarly(snapshot, mark, product, later, change.negated());
    if (why === null) continue;
    const number = mark.number ?? product.code;
    faults.answer(product.plan, 'out of order', pathOf(request, number), why, number);
  }
  return faults;
}

/** What a booking changes of each mark, over all places. */
function netOf(rows: Rows): Map<MarkRef, Quantity> {
  const net = new Map<MarkRef, Quantity>();
  for (const { mark, quantity } of movementsOf(rows))
    net.set(mark, (net.get(mark) ?? ZERO).plus(quantity));
  return net;
}

/** What its date would have it take, or leave to what came after it; null where it is in order. */
function whyTooEarly(
  snapshot: Snapshot,
  mark: KnownMark,
  product: KnownProduct,
  later: readonly LaterMovement[],
  taken: Quantity
): string | null {
  const now = total((snapshot.stock.get(mark.id) ?? new Map<string, Quantity>()).values());
  const then = now.minus(total(later.map(({ quantity }) => quantity)));
  const name = `${nameOf(mark, product)} of ${product.code}`;
  const on = sayDay(snapshot.day);
  if (then.lt(taken)) {
    const came = later.find(({ quantity }) => quantity.gt(0));
    const more = came ? `; more came by ${sayEvent(came)}` : '';
    const had = then.gt(0)
      ? `only ${formatQuantity(then)} ${product.unit} were here`
      : 'none was here';
    return `By its date, ${on}, ${had} of ${name}${more}. Give the day it was.`;
  }
  const short = firstShort(later, then, taken);
  return short === null
    ? null
    : `By its date, ${on}, this takes of ${name} what ${sayEvent(short)} took. Give the day it was.`;
}

/** The first instant after which the rest no longer covers what is taken, by what happened then. */
function firstShort(
  later: readonly LaterMovement[],
  then: Quantity,
  taken: Quantity
): LaterMovement | null {
  let balance = then;
  for (const [n, movement] of later.entries()) {
    balance = balance.plus(movement.quantity);
    // What happened at the same instant counts together.
    const together = later[n + 1]?.at === movement.at;
    if (!together && balance.lt(taken)) return movement;
  }
  return null;
}

const sayEvent = ({ kind, document, day, event }: LaterMovement): string =>
  `${kind} ${document} of ${sayDay(day)} (event ${event})`;
