import { formatQuantity, total, ZERO, type Quantity } from '../quantity/quantity.ts';
import { decided, emptyRows, type Decision, type MarkRef } from './booking.ts';
import { Availability } from './draw.ts';
import { Faults } from '../faults/fault.ts';
import { findMark, findProduct, nameOf } from './lookup.ts';
import { onePerLine, type Reversal, type Wants } from './request.ts';
import {
  codeKey,
  type KnownEvent,
  type KnownMark,
  type KnownProduct,
  type Snapshot
} from './snapshot.ts';
import { sayGone } from './use-mark.ts';

type Made = KnownEvent['transformations'][number];

/**
 * What can be taken back: where goods became others. Other kinds are put right by their own
 * opposite.
 */
const REVERSIBLE = new Set(['build', 'repack', 'teardown']);

export const reversalWants = (request: Reversal): Wants => ({
  products: (request.units ?? []).map((unit) => unit.product),
  places: [],
  partner: null,
  order: null,
  marks: onePerLine(request.units ?? []),
  draws: true,
  event: request.event
});

/**
 * Decides taking a build, a repack or a teardown back, all of it or only what made the units named:
 * what was made leaves again, what went in lies again where it was taken from. Refused where
 * something made has moved on, saying where.
 * What units share with others is given back in their share, where that comes out in amounts the
 * parts are counted in.
 * Faults: mark.unknown, mark.duplicate, stock.short, quantity.not-whole, balance.open.
 */
export function decideReversal(snapshot: Snapshot, request: Reversal): Decision {
  const faults = new Faults();
  const rows = emptyRows();
  const { event } = snapshot;
  if (!event || !REVERSIBLE.has(event.kind)) {
    faults.add(
      'mark.unknown',
      'event',
      event
        ? `Event ${event.id} is a ${event.kind}, and only builds, repacks and teardowns are taken back. Book the opposite instead.`
        : `There is no event ${request.event}.`,
      String(request.event)
    );
    return decided(rows, faults, snapshot);
  }
  rows.orderId = event.orderId;
  rows.partnerId = event.partnerId;
  const live = event.transformations.filter((one) => !one.reversed);
  if (live.length === 0) {
    faults.add(
      'balance.open',
      'event',
      `Event ${event.id} has been taken back already.`,
      String(event.id)
    );
    return decided(rows, faults, snapshot);
  }
  const available = new Availability(snapshot);
  const productById = new Map(
    [...snapshot.products.values()].map((product) => [product.id, product])
  );
  const chosen = chosenOf(live);
  const whole = live.filter((one) => one.outputs.every((output) => chosen.has(output.mark)));
  const cut = live.filter(
    (one) => !whole.includes(one) && one.outputs.some((output) => chosen.has(output.mark))
  );
  // A mark made by several transformations of the event (a unit and what its batch shares) was made
  // once.
  const made = new Map<MarkRef, Quantity>();
  for (const { mark } of [...whole, ...cut].flatMap((one) => one.outputs))
    if (chosen.has(mark)) made.set(mark, madeAt(mark));
  const back = new Map<MarkRef, Quantity>();
  const give = (mark: MarkRef, amount: Quantity) =>
    back.set(mark, (back.get(mark) ?? ZERO).plus(amount));
  for (const one of whole) for (const input of one.inputs) give(input.mark, input.quantity);
  for (const one of cut) splitOff(one);

  for (const [mark, amount] of made) takeMade(mark, amount);
  for (const [mark, amount] of back) putBack(mark, amount);
  rows.reverses = { event: event.id, transformations: [...whole, ...cut].map((one) => one.id) };
  rows.answer = [...made.keys(), ...back.keys()];
  return decided(rows, faults, snapshot);

  /** The marks whose making is taken back: those named, or all. */
  function chosenOf(all: readonly Made[]): Set<MarkRef> {
    const outputs = new Set(all.flatMap((one) => one.outputs.map((output) => output.mark)));
    if (!request.units) return outputs;
    const picked = new Set<MarkRef>();
    request.units.forEach((unit, index) => {
      const path = `units[${index}]`;
      const product = findProduct(snapshot, unit.product, `${path}.product`, faults);
      if (!product) return;
      const serial = unit.serial?.trim(),
        number = serial || unit.lot?.trim() || '';
      const mark = findMark(
        snapshot,
        product,
        serial ? 'serial' : number === '' ? 'bulk' : 'lot',
        number
      );
      if (!mark || !outputs.has(mark.id))
        faults.add(
          'mark.unknown',
          path,
          `${number || product.code} was not made by event ${event!.id}, or that was taken back already.`,
          number || product.code
        );
      else picked.add(mark.id);
    });
    return picked;
  }

  /** How much of a mark the event made that still holds. */
  function madeAt(mark: MarkRef): Quantity {
    return total(
      live
        .filter((one) => !one.shared)
        .flatMap((one) =>
          one.outputs.filter((output) => output.mark === mark).map((output) => output.quantity)
        )
    );
  }

  function known(mark: MarkRef): { mark: KnownMark; product: KnownProduct } {
    const found = snapshot.marksById.get(mark)!;
    return { mark: found, product: productById.get(found.productId)! };
  }

  function takeMade(ref: MarkRef, amount: Quantity): void {
    const { mark, product } = known(ref);
    const first =
      snapshot.places.get(
        codeKey(event!.movements.find((one) => one.mark === ref && one.quantity.gt(0))?.place ?? '')
      ) ?? null;
    const takings = available.take(ref, amount, null, first);
    if (takings) {
      for (const taking of takings)
        rows.movements.push({
          mark: ref,
          placeId: taking.place.id,
          quantity: taking.quantity.negated()
        });
      return;
    }
    const name =
      mark.kind === 'bulk' ? nameOf(mark, product) : `${nameOf(mark, product)} of ${product.code}`;
    const gone = snapshot.gone.get(ref);
    const there = available.amount(ref);
    faults.add(
      'stock.short',
      'event',
      mark.kind === 'serial' || there.isZero()
        ? `${name} is no longer here: ${sayGone(gone)}. Take that back first.`
        : `${name}: ${formatQuantity(amount)} ${product.unit} were made and ${formatQuantity(there)} are on hand; the rest has moved on${gone ? `: ${sayGone(gone)}` : ''}. Take that back first.`,
      mark.number ?? product.code
    );
  }

  /** Components lie again where they were taken from. */
  function putBack(ref: MarkRef, amount: Quantity): void {
    let open = amount;
    for (const taken of event!.movements) {
      if (taken.mark !== ref || taken.quantity.gte(0) || open.lte(0)) continue;
      const part = taken.quantity.abs().lt(open) ? taken.quantity.abs() : open;
      const place = snapshot.places.get(codeKey(taken.place));
      if (place) rows.movements.push({ mark: ref, placeId: place.id, quantity: part });
      open = open.minus(part);
    }
  }

  /**
   * A transformation that also made what stays: its share goes back, the rest stands as a new one.
   */
  function splitOff(one: Made): void {
    const all = total(one.outputs.map((output) => output.quantity));
    const going = total(
      one.outputs.filter((output) => chosen.has(output.mark)).map((output) => output.quantity)
    );
    const staying = one.outputs.filter((output) => !chosen.has(output.mark));
    const inputs = one.inputs.map((input) => {
      const { mark, product } = known(input.mark);
      const share = input.quantity.times(going).div(all);
      if (share.decimalPlaces() > product.decimals)
        faults.add(
          'quantity.not-whole',
          'units',
          `${nameOf(mark, product)} of ${product.code} went into all ${formatQuantity(all)} together, and the share of these is ${share.toDecimalPlaces(4).toFixed()} ${product.unit}: nobody can say which units it is in. Take the whole build back.`,
          mark.number ?? product.code
        );
      give(input.mark, share);
      return { mark: input.mark, quantity: input.quantity.minus(share) };
    });
    rows.transformations.push({
      ...(one.shared ? { shared: true as const } : {}),
      inputs: inputs.filter((input) => input.quantity.gt(0)),
      outputs: staying.map(({ mark, quantity }) => ({ mark, quantity }))
    });
  }
}
