import { mainShare, type Bill } from '../catalogue/bill.ts';
import { gapsOf } from './gaps.ts';
import { sayDay } from '../calendar/say-day.ts';
import { ZERO, opposite, total, type Quantity } from '../quantity/quantity.ts';
import { isOfRevision, revisionAsked, revisionOfMark } from './revision.ts';
import { Births } from '../ledger/birth.ts';
import { bornAgain, mayBeBornAgain } from '../ledger/born-again.ts';
import { decided, emptyRows, type Decision, type MarkRef } from '../ledger/booking.ts';
import { drawLots } from './draw-lots.ts';
import { Availability } from '../ledger/draw.ts';
import { Faults } from '../faults/fault.ts';
import { identify, type Identity } from '../ledger/identity.ts';
import { LateNumbers } from '../ledger/late-numbers.ts';
import { lineQuantity, serialQuantity } from '../ledger/line-quantity.ts';
import { findMark, findPlace, findProduct, nameOf, whereItLies } from '../ledger/lookup.ts';
import { checkOrder, type Booked } from '../ledger/order-check.ts';
import { checkPromises } from '../ledger/promises.ts';
import { onePerLine, type Build, type BuildLine, type Wants } from '../ledger/request.ts';
import {
  codeKey,
  markKey,
  type KnownBill,
  type KnownMark,
  type KnownPlace,
  type KnownProduct,
  type Snapshot
} from '../ledger/snapshot.ts';
import { sayPath, useMark } from '../ledger/use-mark.ts';

export function buildWants(request: Build): Wants {
  const outputs = request.groups.flatMap((group) => group.outputs);
  const inputs = [...request.groups.flatMap((group) => group.inputs), ...(request.shared ?? [])];
  const lines = [...outputs, ...inputs];
  return {
    products: lines.map((line) => line.product),
    places: [request.place, ...lines.flatMap((line) => line.place ?? [])],
    partner: null,
    order: { kind: 'work', number: request.document },
    marks: onePerLine(lines),
    draws: true,
    lotsOf: inputs.filter((line) => line.draw).map((line) => line.product),
    outputs: onePerLine(outputs),
    promises: true
  };
}

/**
 * Decides a build. Each group is one transformation: a finished unit with its own components, or a
 * whole batch.
 * Groups are taken in order, so a later one may use what an earlier one made. A component without a
 * place is taken from the build's place first and then from wherever it lies. What went into all
 * groups together is a transformation of its own, with all that was made as its outputs. Parts of
 * the bill that are not named are kept as gaps, with an order or without one; a part of another
 * revision is refused.
 * Faults: those of `useMark`, mark.duplicate for a made serial, mark.wrong-product for a number
 * named on another order, mark.off-spec for a revision, order.closed, product.unknown,
 * place.unknown.
 */
export function decideBuild(snapshot: Snapshot, request: Build): Decision {
  const faults = new Faults(request.reasons, snapshot.granted);
  const rows = emptyRows();
  rows.orderId = snapshot.order?.id ?? null;
  const buildPlace = findPlace(snapshot, request.place, 'place', faults);
  const available = new Availability(snapshot);
  const births = new Births(snapshot, rows, faults);
  const late = new LateNumbers(snapshot, rows, births, available);
  const booked: Booked[] = [];
  const made = new Map<string, { ref: MarkRef; path: string }>();
  const usedSerials = new Map<MarkRef, string>();
  const productOf = new Map<MarkRef, string>();
  const positions = new Map<MarkRef, string>();
  const taken = new Map<MarkRef, string>();

  const recorded: { inputs: Map<MarkRef, Quantity>; outputs: Map<MarkRef, Quantity> }[] = [];
  const shared = new Map<MarkRef, Quantity>();
  const bill = snapshot.order?.bill ?? null;
  (request.shared ?? []).forEach((line, index) => takeInput(line, `shared[${index}]`, shared));
  request.groups.forEach((group, g) => {
    const inputs = new Map<MarkRef, Quantity>();
    const outputs = new Map<MarkRef, Quantity>();
    group.inputs.forEach((line, i) => takeInput(line, `groups[${g}].inputs[${i}]`, inputs));
    const wentIn = shared.size === 0 ? inputs : sumUp([inputs, shared]);
    group.outputs.forEach((line, o) => {
      const path = `groups[${g}].outputs[${o}]`;
      const product = findProduct(snapshot, line.product, `${path}.product`, faults);
      const place =
        line.place === undefined
          ? buildPlace
          : findPlace(snapshot, line.place, `${path}.place`, faults);
      if (!product) return;
      const identity = identify(product, line, 'output', path, faults);
      const amount = identity && outputQuantity(product, identity, line, path);
      const ref =
        identity && ofThisOrder(product, identity, path)
          ? outputMark(product, identity, line, path, wentIn)
          : null;
      if (amount) booked.push({ product, quantity: amount, path });
      if (!amount || ref === null || !place) return;
      productOf.set(ref, codeKey(product.code));
      outputs.set(ref, (outputs.get(ref) ?? ZERO).plus(amount));
      rows.movements.push({ mark: ref, placeId: place.id, quantity: amount });
      available.add(ref, place, amount);
      usedSerials.delete(ref); // made anew: it may be used by a later group
      rows.answer.push(ref);
    });
    recorded.push({ inputs, outputs });
    if (request.groups.length > 1 || shared.size === 0)
      rows.transformations.push(transformationOf(inputs, outputs));
  });
  // One group is the batch itself; several share what went in by a transformation of their own.
  if (recorded.length === 1 && shared.size > 0)
    rows.transformations.push(
      transformationOf(sumUp([recorded[0]!.inputs, shared]), recorded[0]!.outputs)
    );
  else if (shared.size > 0)
    rows.transformations.push({
      ...transformationOf(shared, sumUp(recorded.map((one) => one.outputs))),
      shared: true
    });

  late.finish();
  checkPromises(snapshot, available, taken, request.document, faults);
  for (const one of bill ? [bill, ...snapshot.bills] : snapshot.bills) tellGaps(one);
  checkOrder(snapshot, booked, null, 'note', faults);
  return decided(rows, faults, snapshot);

  function takeInput(line: BuildLine, path: string, into: Map<MarkRef, Quantity>): void {
    const product = findProduct(snapshot, line.product, `${path}.product`, faults);
    const only =
      line.place === undefined ? null : findPlace(snapshot, line.place, `${path}.place`, faults);
    if (!product || !rightRevision(product, line, path)) return;
    if (line.draw) {
      const wanted = lineQuantity(product, line.quantity ?? '', path, faults);
      for (const lot of (wanted &&
        drawLots(
          snapshot,
          available,
          product,
          wanted,
          buildPlace,
          revisionAsked(bill?.bill ?? null, product),
          path,
          faults
        )) ??
        [])
        put(lot.ref, lot.quantity, lot.takings);
      return;
    }
    const used = useMark(
      snapshot,
      available,
      usedSerials,
      {
        product,
        checkpoint: 'issue',
        named: line,
        only,
        first: buildPlace,
        path,
        mustBeUsable: true,
        late,
        justMade: (identity) => made.get(keyOf(product, identity))?.ref
      },
      faults
    );
    if (used) put(used.ref, used.quantity, used.takings);

    function put(
      ref: MarkRef,
      quantity: Quantity,
      takings: { place: KnownPlace; quantity: Quantity }[]
    ): void {
      productOf.set(ref, codeKey(product!.code));
      if (line.position?.trim()) positions.set(ref, line.position.trim().slice(0, 60));
      into.set(ref, (into.get(ref) ?? ZERO).plus(quantity));
      if (snapshot.promised.size > 0 && !taken.has(ref)) taken.set(ref, path);
      for (const taking of takings)
        rows.movements.push({
          mark: ref,
          placeId: taking.place.id,
          quantity: opposite(taking.quantity)
        });
    }
  }

  /** Where the bill asks for a revision, the part must say so among its facts. */
  function rightRevision(product: KnownProduct, line: BuildLine, path: string): boolean {
    const asked = revisionAsked(bill?.bill ?? null, product);
    const serial = line.serial?.trim(),
      number = serial || line.lot?.trim();
    if (asked === null || !number) return true;
    const mark = findMark(snapshot, product, serial ? 'serial' : 'lot', number);
    if (!mark || isOfRevision(snapshot, mark, asked)) return true;
    const has = revisionOfMark(snapshot, mark);
    faults.add(
      'mark.off-spec',
      path,
      `${nameOf(mark, product)} of ${product.code} is ${has === null ? 'of no known revision' : `revision ${has}`}, and bill version ${bill!.bill.version} asks for revision ${asked}. Take another, or amend its facts.`,
      mark.number!
    );
    return false;
  }

  /** A number named ahead for another order is that order's. */
  function ofThisOrder(product: KnownProduct, identity: Identity, path: string): boolean {
    if (identity.kind === 'bulk') return true;
    const whose = snapshot.named.get(keyOf(product, identity));
    if (whose !== undefined && codeKey(whose) !== codeKey(request.document)) {
      faults.add(
        'mark.wrong-product',
        path,
        `${identity.number} is named for order ${whose}, not for ${request.document.trim()}. Take a number of this order, or build it there.`,
        identity.number
      );
      return false;
    }
    if (
      whose === undefined &&
      (snapshot.order?.named ?? 0) > 0 &&
      identity.kind === 'serial' &&
      !findMark(snapshot, product, 'serial', identity.number)
    )
      faults.note(
        path,
        `${identity.number} is not among the ${snapshot.order!.named} numbers named for ${snapshot.order!.number}.`,
        identity.number
      );
    return true;
  }

  function transformationOf(
    inputs: ReadonlyMap<MarkRef, Quantity>,
    outputs: ReadonlyMap<MarkRef, Quantity>
  ) {
    const list = [...outputs].map(([mark, quantity]) => ({ mark, quantity }));
    const products = new Set(list.map(({ mark }) => productOf.get(mark)));
    const shares = bill && products.size > 1 ? sharesOf(bill.bill, list) : null;
    return {
      inputs: [...inputs].map(([mark, quantity]) => {
        const position = positions.get(mark);
        return position === undefined ? { mark, quantity } : { mark, quantity, position };
      }),
      outputs: shares ? list.map((row, index) => ({ ...row, share: shares[index]! })) : list
    };
  }

  /** What part of the inputs each output takes, as the bill says for its co-products. */
  function sharesOf(of: Bill, list: readonly { mark: MarkRef; quantity: Quantity }[]): Quantity[] {
    return list.map(({ mark, quantity }) => {
      const code = productOf.get(mark);
      const co = of.coProducts.find((one) => codeKey(one.product) === code);
      const alike = total(
        list.filter((other) => productOf.get(other.mark) === code).map((other) => other.quantity)
      );
      return mainShare(of)
        .times(0)
        .plus(co ? co.share : mainShare(of))
        .div(100)
        .times(quantity)
        .div(alike)
        .toDecimalPlaces(12);
    });
  }

  /**
   * Keeps what the bill asks for and nobody named, for each thing made; rework takes its parts
   * along.
   */
  function tellGaps({ bill: of, ids }: KnownBill): void {
    const main = codeKey(of.product);
    const at = recorded.flatMap(({ inputs, outputs }, index) =>
      [...outputs.keys()].some((ref) => productOf.get(ref) === main) &&
      ![...outputs.keys()].some((ref) => inputs.has(ref))
        ? [index]
        : []
    );
    const usedBy = (inputs: ReadonlyMap<MarkRef, Quantity>) => {
      const sums = new Map<string, Quantity>();
      for (const [ref, amount] of inputs)
        sums.set(productOf.get(ref)!, (sums.get(productOf.get(ref)!) ?? ZERO).plus(amount));
      return sums;
    };
    const made = at.map((index) =>
      total(
        [...recorded[index]!.outputs].flatMap(([ref, amount]) =>
          productOf.get(ref) === main ? [amount] : []
        )
      )
    );
    for (const gap of gapsOf(
      of,
      at.map((index, i) => ({ made: made[i]!, used: usedBy(recorded[index]!.inputs) })),
      usedBy(shared)
    )) {
      const index = at[gap.group]!;
      const componentId = ids.get(codeKey(gap.product));
      const [mark] = [...recorded[index]!.outputs.keys()].filter(
        (ref) => productOf.get(ref) === main
      );
      if (componentId !== undefined && mark !== undefined)
        rows.gaps.push({
          transformation: recorded.length === 1 ? 0 : index,
          mark,
          componentId,
          wanted: gap.wanted,
          used: gap.used
        });
    }
  }

  function outputQuantity(
    product: KnownProduct,
    identity: Identity,
    line: BuildLine,
    path: string
  ): Quantity | null {
    if (identity.kind === 'serial')
      return serialQuantity(product, line.serial ?? '', line.quantity, path, faults);
    if (line.quantity !== undefined) return lineQuantity(product, line.quantity, path, faults);
    faults.add(
      'quantity.mismatch',
      path,
      `Say how much of ${product.code} was made.`,
      product.code
    );
    return null;
  }

  function outputMark(
    product: KnownProduct,
    identity: Identity,
    line: BuildLine,
    path: string,
    inputs: ReadonlyMap<MarkRef, Quantity>
  ): MarkRef | null {
    const key = keyOf(product, identity);
    const before = made.get(key);
    if (before) {
      if (identity.kind !== 'serial') return before.ref;
      faults.add(
        'mark.duplicate',
        path,
        `Serial ${identity.number} is already made at ${sayPath(before.path)}. Remove one of the two.`,
        identity.number
      );
      return null;
    }
    const existing = findMark(snapshot, product, identity.kind, identity.number);
    const again = existing !== null && mayBeMadeAgain(snapshot, existing);
    if (existing && identity.kind === 'serial' && !inputs.has(existing.id) && !again) {
      const lies = whereItLies(snapshot, existing);
      faults.add(
        'mark.duplicate',
        path,
        lies
          ? `Serial ${existing.number} is already on hand at ${lies}, since ${sayDay(existing.bornOn)}. Give another number; for rework name it among the components too.`
          : `Serial ${existing.number} was already used for ${product.code}, on ${sayDay(existing.bornOn)}. A number is never used twice: give another.`,
        existing.number!
      );
      return null;
    }
    const born = {
      ...{ product, identity, with: line, madeHere: true, path },
      earliestComponent: earliestOf(inputs)
    };
    const ref = again
      ? bornAgain(snapshot, rows, faults, existing, born)
      : (existing?.id ??
        (identity.kind === 'lot' ? births.lotMade(product, identity.number) : undefined) ??
        births.make(born));
    if (ref === null) return null;
    made.set(key, { ref, path });
    return ref;
  }

  /** The earliest expiry among what went in. */
  function earliestOf(inputs: ReadonlyMap<MarkRef, Quantity>): string | null {
    const days = [...inputs.keys()].flatMap((ref) => expiryOf(ref) ?? []);
    return days.length === 0 ? null : days.reduce((a, b) => (a < b ? a : b));
  }
  function expiryOf(ref: MarkRef): string | null {
    if (ref < 0) return rows.newMarks[-ref - 1]!.expiresOn;
    const mark = snapshot.marksById.get(ref);
    return (
      mark?.expires ??
      (mark?.lotId == null ? null : (snapshot.marksById.get(mark.lotId)?.expires ?? null))
    );
  }

  function keyOf(product: KnownProduct, identity: Identity): string {
    return markKey(product.id, identity.kind, identity.number);
  }
}

/** A number whose making was taken back, or whose unit was taken apart, is made again. */
const mayBeMadeAgain = (snapshot: Snapshot, mark: KnownMark): boolean =>
  mayBeBornAgain(snapshot, mark) || snapshot.gone.get(mark.id)?.kind === 'teardown';

/** Sums of quantities by mark. */
function sumUp(maps: readonly ReadonlyMap<MarkRef, Quantity>[]): Map<MarkRef, Quantity> {
  const sums = new Map<MarkRef, Quantity>();
  for (const map of maps)
    for (const [ref, amount] of map) sums.set(ref, (sums.get(ref) ?? ZERO).plus(amount));
  return sums;
}
