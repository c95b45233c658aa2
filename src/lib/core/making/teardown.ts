import { ZERO, formatQuantity, opposite, type Quantity } from '../quantity/quantity.ts';
import { Births } from '../ledger/birth.ts';
import { decided, emptyRows, type Decision, type MarkRef } from '../ledger/booking.ts';
import { Availability } from '../ledger/draw.ts';
import { Faults } from '../faults/fault.ts';
import { identify, type Identity } from '../ledger/identity.ts';
import { lineQuantity, serialQuantity } from '../ledger/line-quantity.ts';
import { findMark, findPlace, findProduct, nameOf, whereItLies } from '../ledger/lookup.ts';
import {
  onePerLine,
  type Teardown,
  type TornPart,
  type TornUnit,
  type Wants
} from '../ledger/request.ts';
import type { KnownMark, KnownProduct, Snapshot } from '../ledger/snapshot.ts';
import { useMark, sayGone } from '../ledger/use-mark.ts';
import { insideOf } from './inside.ts';

export const teardownWants = (request: Teardown): Wants => {
  const parts = request.units.flatMap((unit) => unit.parts);
  return {
    products: [...request.units, ...parts].map((line) => line.product),
    places: [request.place, ...parts.flatMap((part) => part.place ?? [])],
    partner: null,
    order: null,
    marks: onePerLine([...request.units, ...parts]),
    draws: true,
    asBuilt: { hosts: onePerLine(request.units), ever: true }
  };
};

/**
 * Decides a teardown: a unit leaves stock and becomes its parts again. A part that the unit is
 * known to be made of is that very mark; where the unit's parts of that product are not known, a
 * part may be a new mark or unmarked. What did not survive is scrapped in the same booking.
 * Faults: those of `useMark`, mark.wrong-product for a part that is not in the unit,
 * mark.duplicate, quantity.mismatch, mark.missing, product.unknown, place.unknown.
 */
export function decideTeardown(snapshot: Snapshot, request: Teardown): Decision {
  const faults = new Faults(request.reasons, snapshot.granted);
  const rows = emptyRows();
  const available = new Availability(snapshot);
  const births = new Births(snapshot, rows, faults);
  const usedSerials = new Map<MarkRef, string>();
  const lost: typeof rows.movements = [];
  const place = findPlace(snapshot, request.place, 'place', faults);
  request.units.forEach((unit, index) => tear(unit, `units[${index}]`));
  if (lost.length > 0 && !request.reason?.trim())
    faults.add(
      'mark.missing',
      'reason',
      'Something was lost in the teardown. Say why, such as “weld cut open”.'
    );
  if (lost.length > 0) rows.scrapped = { movements: lost, reason: request.reason?.trim() ?? '' };
  return decided(rows, faults, snapshot);

  function tear(unit: TornUnit, path: string): void {
    const product = findProduct(snapshot, unit.product, `${path}.product`, faults);
    if (!product) return;
    const used = useMark(
      snapshot,
      available,
      usedSerials,
      {
        product,
        checkpoint: 'issue',
        named: unit,
        only: null,
        first: place,
        path,
        mustBeUsable: false
      },
      faults
    );
    if (!used) return;
    for (const taking of used.takings)
      rows.movements.push({
        mark: used.ref,
        placeId: taking.place.id,
        quantity: opposite(taking.quantity)
      });
    const parts = snapshot.asBuilt.get(used.ref) ?? [];
    const inside = insideOf(parts, used.quantity);
    const ever = parts.map((part) => part.mark);
    const outputs = new Map<MarkRef, Quantity>();
    unit.parts.forEach((part, at) => {
      const here = `${path}.parts[${at}]`;
      const made = partOf(part, inside, ever, here);
      if (!made || !place) return;
      const to =
        part.place === undefined ? place : findPlace(snapshot, part.place, `${here}.place`, faults);
      if (!to) return;
      outputs.set(made.ref, (outputs.get(made.ref) ?? ZERO).plus(made.quantity));
      rows.movements.push({ mark: made.ref, placeId: to.id, quantity: made.quantity });
      if (part.lost)
        lost.push({ mark: made.ref, placeId: to.id, quantity: opposite(made.quantity) });
      else rows.answer.push(made.ref);
    });
    if (unit.parts.length === 0)
      faults.add(
        'mark.missing',
        path,
        `Say what came out of ${nameOf({ kind: used.identity.kind, number: used.identity.number }, product)}, and what was lost.`,
        used.identity.number
      );
    tellForgotten(inside, outputs, path, product, used.identity.number);
    rows.transformations.push({
      inputs: [{ mark: used.ref, quantity: used.quantity }],
      outputs: [...outputs].map(([mark, quantity]) => ({ mark, quantity }))
    });
  }

  function partOf(
    part: TornPart,
    inside: ReadonlyMap<MarkRef, Quantity>,
    ever: readonly MarkRef[],
    path: string
  ): { ref: MarkRef; quantity: Quantity } | null {
    const product = findProduct(snapshot, part.product, `${path}.product`, faults);
    if (!product) return null;
    const identity = inAnyUnit(product, part) ?? identify(product, part, 'output', path, faults);
    const amount =
      identity &&
      (identity.kind === 'serial'
        ? serialQuantity(product, identity.number, part.quantity, path, faults)
        : lineQuantity(product, part.quantity ?? '', path, faults));
    if (!identity || !amount) return null;
    const mark = findMark(snapshot, product, identity.kind, identity.number);
    if (!mark) {
      // Only where nobody wrote down what was in it may a part be new.
      const known = partsEver(ever, product);
      if (known.length === 0 || identity.kind === 'bulk') {
        const ref = births.make({
          product,
          identity,
          with: part,
          madeHere: false,
          earliestComponent: null,
          path
        });
        return ref === null ? null : { ref, quantity: amount };
      }
      faults.add(
        'mark.wrong-product',
        path,
        `${identity.number} is not in this unit: it was built with ${known.map((one) => one.number).join(', ')} of ${product.code}. Check the number on the part.`,
        identity.number
      );
      return null;
    }
    const was = inside.get(mark.id);
    if (was === undefined && mark.kind !== 'bulk') {
      const lies = whereItLies(snapshot, mark);
      faults.add(
        'mark.wrong-product',
        path,
        `${nameOf(mark, product)} of ${product.code} did not go into this unit${lies ? `; it lies at ${lies}` : snapshot.gone.has(mark.id) ? `: ${sayGone(snapshot.gone.get(mark.id))}` : ''}. Check the number on the part.`,
        mark.number!
      );
      return null;
    }
    if (was !== undefined && amount.gt(was)) {
      faults.add(
        'quantity.mismatch',
        path,
        `${formatQuantity(was)} ${product.unit} of ${nameOf(mark, product)} went in, so ${formatQuantity(amount)} cannot come out.`,
        mark.number ?? product.code
      );
      return null;
    }
    if (mark.kind === 'serial' && (snapshot.stock.get(mark.id)?.size ?? 0) > 0) {
      faults.add(
        'mark.duplicate',
        path,
        `${nameOf(mark, product)} of ${product.code} is already on hand at ${whereItLies(snapshot, mark)}. Leave it out.`,
        mark.number!
      );
      return null;
    }
    return { ref: mark.id, quantity: amount };
  }

  /** A serial that is known needs no lot to be found by. */
  function inAnyUnit(product: KnownProduct, { serial, lot }: TornPart): Identity | null {
    const mark = serial && !lot ? findMark(snapshot, product, 'serial', serial) : null;
    return mark ? { kind: 'serial', number: mark.number!, lot: null } : null;
  }

  /** What of a product ever went in, whether or not it came out before. */
  function partsEver(ever: readonly MarkRef[], product: KnownProduct): KnownMark[] {
    return ever.flatMap((ref) => {
      const mark = snapshot.marksById.get(ref);
      return mark && mark.productId === product.id && mark.kind !== 'bulk' ? [mark] : [];
    });
  }

  /**
   * What went in and is neither brought out nor lost stays accounted to the unit: said, as it is
   * easily forgotten.
   */
  function tellForgotten(
    inside: ReadonlyMap<MarkRef, Quantity>,
    outputs: ReadonlyMap<MarkRef, Quantity>,
    path: string,
    unit: KnownProduct,
    number: string
  ): void {
    const left = [...inside].flatMap(([ref, amount]) => {
      const mark = snapshot.marksById.get(ref);
      const rest = amount.minus(outputs.get(ref) ?? ZERO);
      return mark && mark.kind === 'serial' && rest.gt(0) ? [mark.number!] : [];
    });
    if (left.length > 0)
      faults.note(
        path,
        `${left.join(', ')} went into ${unit.code} ${number} and ${left.length === 1 ? 'is' : 'are'} not among what came out. Add ${left.length === 1 ? 'it' : 'them'}, or say it was lost.`,
        number
      );
  }
}
