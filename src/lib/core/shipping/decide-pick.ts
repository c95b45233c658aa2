import { sayDay } from '../calendar/say-day.ts';
import type { FaultCode } from '../faults/fault-codes.ts';
import { numberKey, shown } from '../numbers/number.ts';
import { formatQuantity, parseQuantity, quantity, type Quantity } from '../quantity/quantity.ts';
import type { Pickable, PickablePlace, PickRecord } from './pick-record.ts';

/** What somebody does who picks: how much, and where they take it, where they say so. */
export interface PickAsked {
  quantity?: string | undefined;
  place?: string | undefined;
}

/** Why nothing is picked. */
export interface NotPicked {
  is: 'refused';
  code: FaultCode;
  message: string;
  number: string;
}

/** So much is fetched for a stop, at a place. */
export interface Picked {
  is: 'picked';
  stop: PickRecord;
  amount: Quantity;
  lies: PickablePlace;
  /** It lies elsewhere than the list said. */
  moved: boolean;
  said: string;
}

export type PickDecision = NotPicked | Picked | { is: 'already'; stop: PickRecord; said: string };

const nameOf = ({ kind, product, number }: Pickable): string =>
  kind === 'bulk' ? product : `${number} of ${product}`;

/**
 * Decides what a mark in hand fills of a pick list: a stop of its own, or one where any serial will
 * do. What lies elsewhere than the list says moves the stop there.
 * @param order its number, for what is said
 * @param day today, `YYYY-MM-DD`
 */
export function decidePick(
  picks: readonly PickRecord[],
  mark: Pickable,
  asked: PickAsked,
  order: string,
  day: string
): PickDecision {
  const refuse = (code: FaultCode, message: string): NotPicked => ({
    is: 'refused',
    code,
    message,
    number: mark.number
  });
  const name = nameOf(mark);
  const places = mark.places ?? [];
  const named = placeNamed(places, asked.place);
  if (named === 'none')
    return refuse(
      'stock.short',
      `${name} does not lie at ${shown(asked.place!)}: it lies at ${places.map((one) => one.code).join(' and ') || 'no place here'}.`
    );
  const own = picks.filter((pick) => pick.mark === mark.id);
  const waiting = own.filter((pick) => pick.picked !== pick.quantity);
  if (own.length > 0 && waiting.length === 0)
    return { is: 'already', stop: own[0]!, said: `${name} is picked already.` };
  if (places.length === 0) return refuse('stock.short', `${name} is not on hand. Scan another.`);
  const unusable = whyUnusable(mark, day);
  if (unusable) return refuse(unusable.code, unusable.message);
  const stop = stopFor(picks, waiting, mark, named);
  if (!stop) return refuse('mark.wrong-product', sayNotListed(picks, mark, order));
  const open = quantity(stop.quantity).minus(stop.picked);
  const amount = asked.quantity === undefined ? open : parseQuantity(asked.quantity);
  if (!amount || amount.lte(0) || amount.gt(open))
    return refuse(
      'quantity.mismatch',
      `${formatQuantity(open)} ${mark.unit} of ${name} are to be fetched here; “${shown(asked.quantity ?? '')}” cannot be.`
    );
  const lies = named ?? places.find((one) => one.code === stop.place) ?? places[0]!;
  if (amount.gt(lies.quantity))
    return refuse(
      'stock.short',
      `${formatQuantity(quantity(lies.quantity))} ${mark.unit} of ${name} lie at ${lies.code}; ${formatQuantity(amount)} cannot be fetched there.`
    );
  return picked(stop, mark, amount, lies);
}

/** The place that was named; `none` where nothing of it lies there, null where none was named. */
function placeNamed(
  places: readonly PickablePlace[],
  code: string | undefined
): PickablePlace | 'none' | null {
  if (code === undefined) return null;
  return places.find((one) => numberKey(one.code) === numberKey(code)) ?? 'none';
}

/** Held, rejected and expired goods are not fetched at all. */
function whyUnusable(
  { number, product, state, expires }: Pickable,
  day: string
): { code: FaultCode; message: string } | null {
  if (state !== 'usable')
    return {
      code: state === 'held' ? 'mark.held' : 'mark.rejected',
      message: `${number} of ${product} is ${state === 'held' ? 'held by quality' : 'rejected'}. Leave it there and fetch another.`
    };
  if (expires !== null && expires < day)
    return {
      code: 'mark.expired',
      message: `${number} of ${product} expired on ${sayDay(expires)}. Leave it there and fetch another.`
    };
  return null;
}

/** The stop a mark fills: its own, the one at the place first; or one where any serial will do. */
function stopFor(
  picks: readonly PickRecord[],
  waiting: readonly PickRecord[],
  mark: Pickable,
  place: PickablePlace | null
): PickRecord | undefined {
  return (
    (place ? waiting.find((pick) => pick.place === place.code) : undefined) ??
    waiting[0] ??
    picks.find((pick) => pick.mark === null && pick.product === mark.product && pick.picked === '0')
  );
}

function sayNotListed(picks: readonly PickRecord[], mark: Pickable, order: string): string {
  const name = nameOf(mark);
  const same = picks.filter(
    (pick) => pick.fell === null && pick.product === mark.product && pick.picked !== pick.quantity
  );
  if (same.length > 0) {
    const listed = same.slice(0, 3).map((pick) => pick.number);
    return `${name} is not on the list, which says ${listed.join(', ')}. Fetch that, or swap it for this one.`;
  }
  return picks.some((pick) => pick.product === mark.product)
    ? `All ${mark.product} of ${order} are picked. Put ${mark.number} back.`
    : `${name} is not on ${order}. Put it back.`;
}

function picked(stop: PickRecord, mark: Pickable, amount: Quantity, lies: PickablePlace): Picked {
  const moved = stop.listed !== null && lies.code !== stop.listed;
  const name = nameOf(mark);
  const what = mark.kind === 'serial' ? name : `${formatQuantity(amount)} ${mark.unit} of ${name}`;
  const said = moved
    ? `${what} picked. It lies at ${lies.code}, not at ${stop.listed}: the list says ${lies.code} now.`
    : `${what} picked${stop.place === null ? ` at ${lies.code}` : ''}.`;
  return { is: 'picked', stop, amount, lies, moved, said };
}
