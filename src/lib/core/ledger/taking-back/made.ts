import { sayDay } from '../../calendar/say-day.ts';
import { formatQuantity, total, ZERO, type Quantity } from '../../quantity/quantity.ts';
import type { MarkRef } from '../booking.ts';
import { nameOf } from '../lookup.ts';
import type { KnownEvent } from '../snapshot.ts';
import {
  knownOf,
  putBack,
  sayLater,
  sayMark,
  takeAway,
  tellMovedOn,
  type Undoing
} from './undoing.ts';

type Made = KnownEvent['transformations'][number];

/** Kinds of event by which goods become others: tied by transformations. */
export const MAKING: ReadonlySet<string> = new Set(['build', 'repack', 'teardown', 'identify']);

/** The transformations of an event that still hold. */
export const standing = ({ transformations }: KnownEvent): Made[] =>
  transformations.filter((one) => !one.reversed);

/** What an event made that was not taken back. */
export const madeBy = (event: KnownEvent): Set<MarkRef> =>
  new Set(standing(event).flatMap((one) => one.outputs.map((output) => output.mark)));

/**
 * Goods that became others: what was made leaves again, what went in lies again where it was taken
 * from. What units share with others is given back in their share, where that comes out in amounts
 * the parts are counted in.
 * Faults: event.moved-on, quantity.not-whole.
 * @param chosen the marks whose making is taken back
 */
export function takeMadeBack(undoing: Undoing, chosen: ReadonlySet<MarkRef>): void {
  const { event, rows } = undoing;
  const live = standing(event);
  const whole = live.filter((one) => one.outputs.every(({ mark }) => chosen.has(mark)));
  const cut = live.filter(
    (one) => !whole.includes(one) && one.outputs.some(({ mark }) => chosen.has(mark))
  );
  const back = new Map<MarkRef, Quantity>();
  const give = (mark: MarkRef, amount: Quantity) =>
    back.set(mark, (back.get(mark) ?? ZERO).plus(amount));
  for (const one of whole) for (const input of one.inputs) give(input.mark, input.quantity);
  for (const one of cut) splitOff(undoing, one, chosen, give);

  const made = amountsMade(live, [...whole, ...cut], chosen);
  for (const [mark, amount] of made)
    if (hasItsParts(undoing, mark)) takeAway(undoing, mark, amount);
  for (const [mark, amount] of back) if (mayLieHere(undoing, mark)) putBack(undoing, mark, amount);
  rows.reverses = { event: event.id, transformations: [...whole, ...cut].map((one) => one.id) };
  rows.answer = [...made.keys(), ...back.keys()];
}

/** A unit that parts were put into or taken out of since is first what it was when it was made. */
function hasItsParts(undoing: Undoing, ref: MarkRef): boolean {
  const since = undoing.event.fittedSince.get(ref);
  if (!since) return true;
  const what = `${since.kind} ${since.document} of ${sayDay(since.day)}`;
  const message = `Parts of ${sayMark(undoing, ref)} were changed since: ${what}. Take that back first.`;
  const { mark, product } = knownOf(undoing, ref);
  undoing.faults.inTheWay('event', message, mark.number ?? product.code, since.event);
  return false;
}

/** A serial that lies here already came out of what it went into by another booking. */
function mayLieHere(undoing: Undoing, ref: MarkRef): boolean {
  const { mark } = knownOf(undoing, ref);
  if (mark.kind !== 'serial' || undoing.available.amount(ref).lte(0)) return true;
  if (undoing.taken.has(ref)) return true;
  tellMovedOn(
    undoing,
    ref,
    `${sayMark(undoing, ref)} lies here already; ${sayLater(undoing, ref)}`
  );
  return false;
}

/**
 * How much of each the event made. A mark made by several transformations (a unit and what its
 * batch shares) was made once.
 */
function amountsMade(
  live: readonly Made[],
  going: readonly Made[],
  chosen: ReadonlySet<MarkRef>
): Map<MarkRef, Quantity> {
  const made = new Map<MarkRef, Quantity>();
  for (const { mark } of going.flatMap((one) => one.outputs)) {
    if (!chosen.has(mark) || made.has(mark)) continue;
    const outputs = live.filter((one) => !one.shared).flatMap((one) => one.outputs);
    const amounts = outputs.filter((output) => output.mark === mark);
    made.set(mark, total(amounts.map((output) => output.quantity)));
  }
  return made;
}

/** A transformation that also made what stays: its share goes back, the rest stands as a new one. */
function splitOff(
  undoing: Undoing,
  one: Made,
  chosen: ReadonlySet<MarkRef>,
  give: (mark: MarkRef, amount: Quantity) => void
): void {
  const all = total(one.outputs.map((output) => output.quantity));
  const going = one.outputs.filter((output) => chosen.has(output.mark));
  const staying = one.outputs.filter((output) => !chosen.has(output.mark));
  const part = total(going.map((output) => output.quantity));
  const inputs = one.inputs.map(({ mark, quantity }) => {
    const share = quantity.times(part).div(all);
    tellUneven(undoing, mark, share, all);
    give(mark, share);
    return { mark, quantity: quantity.minus(share) };
  });
  undoing.rows.transformations.push({
    ...(one.shared ? { shared: true as const } : {}),
    inputs: inputs.filter((input) => input.quantity.gt(0)),
    outputs: staying.map(({ mark, quantity }) => ({ mark, quantity }))
  });
}

function tellUneven(undoing: Undoing, ref: MarkRef, share: Quantity, all: Quantity): void {
  const { mark, product } = knownOf(undoing, ref);
  if (share.decimalPlaces() <= product.decimals) return;
  const name = `${nameOf(mark, product)} of ${product.code}`;
  const says = `${share.toDecimalPlaces(4).toFixed()} ${product.unit}`;
  const message = `${name} went into all ${formatQuantity(all)} together, and the share of these is ${says}: nobody can say which units it is in. Take the whole build back.`;
  undoing.faults.add('quantity.not-whole', 'units', message, mark.number ?? product.code);
}
