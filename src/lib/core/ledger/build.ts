import { sayDay } from '../calendar/say-day.ts';
import type { Quantity } from '../quantity/quantity.ts';
import { Births } from './birth.ts';
import { decided, emptyRows, type Decision, type MarkRef } from './booking.ts';
import { Availability } from './draw.ts';
import { Faults } from './fault.ts';
import { identify, type Identity } from './identity.ts';
import { LateNumbers } from './late-numbers.ts';
import { lineQuantity, serialQuantity } from './line-quantity.ts';
import { findMark, findPlace, findProduct, whereItLies } from './lookup.ts';
import { checkOrder, type Booked } from './order-check.ts';
import { onePerLine, type Build, type BuildLine, type Wants } from './request.ts';
import { markKey, type KnownProduct, type Snapshot } from './snapshot.ts';
import { sayPath, useMark } from './use-mark.ts';

export function buildWants(request: Build): Wants {
  const lines = request.groups.flatMap((group) => [...group.outputs, ...group.inputs]);
  return {
    products: lines.map((line) => line.product),
    places: [request.place, ...lines.flatMap((line) => line.place ?? [])],
    partner: null,
    order: { kind: 'work', number: request.document },
    marks: onePerLine(lines),
    draws: true
  };
}

/**
 * Decides a build. Each group is one transformation: a finished unit with its own components, or a whole batch.
 * Groups are taken in order, so a later one may use what an earlier one made. A component without a place is taken
 * from the build's place first and then from wherever it lies.
 * Faults: those of `useMark`, mark.duplicate for a made serial, order.closed, product.unknown, place.unknown.
 */
export function decideBuild(snapshot: Snapshot, request: Build): Decision {
  const faults = new Faults(request.reasons);
  const rows = emptyRows();
  rows.orderId = snapshot.order?.id ?? null;
  const buildPlace = findPlace(snapshot, request.place, 'place', faults);
  const available = new Availability(snapshot);
  const births = new Births(snapshot, rows, faults);
  const late = new LateNumbers(snapshot, rows, births, available);
  const booked: Booked[] = [];
  const made = new Map<string, { ref: MarkRef; path: string }>();
  const usedSerials = new Map<MarkRef, string>();

  request.groups.forEach((group, g) => {
    const inputs = new Map<MarkRef, Quantity>();
    const outputs = new Map<MarkRef, Quantity>();
    group.inputs.forEach((line, i) => {
      const path = `groups[${g}].inputs[${i}]`;
      const product = findProduct(snapshot, line.product, `${path}.product`, faults);
      const only = line.place === undefined ? null : findPlace(snapshot, line.place, `${path}.place`, faults);
      if (!product) return;
      const used = useMark(snapshot, available, usedSerials, {
        product, checkpoint: 'issue', named: line, only, first: buildPlace, path, mustBeUsable: true, late,
        justMade: (identity) => made.get(keyOf(product, identity))?.ref
      }, faults);
      if (!used) return;
      inputs.set(used.ref, (inputs.get(used.ref) ?? used.quantity.times(0)).plus(used.quantity));
      for (const taking of used.takings) rows.movements.push({ mark: used.ref, placeId: taking.place.id, quantity: taking.quantity.negated() });
    });
    group.outputs.forEach((line, o) => {
      const path = `groups[${g}].outputs[${o}]`;
      const product = findProduct(snapshot, line.product, `${path}.product`, faults);
      const place = line.place === undefined ? buildPlace : findPlace(snapshot, line.place, `${path}.place`, faults);
      if (!product) return;
      const identity = identify(product, line, 'output', path, faults);
      const amount = identity && outputQuantity(product, identity, line, path);
      const ref = identity && outputMark(product, identity, line, path, inputs);
      if (amount) booked.push({ product, quantity: amount, path });
      if (!amount || ref === null || !place) return;
      outputs.set(ref, (outputs.get(ref) ?? amount.times(0)).plus(amount));
      rows.movements.push({ mark: ref, placeId: place.id, quantity: amount });
      available.add(ref, place, amount);
      usedSerials.delete(ref);       // made anew: it may be used by a later group
      rows.answer.push(ref);
    });
    rows.transformations.push({
      inputs: [...inputs].map(([mark, quantity]) => ({ mark, quantity })),
      outputs: [...outputs].map(([mark, quantity]) => ({ mark, quantity }))
    });
  });

  late.finish();
  checkOrder(snapshot, booked, null, 'note', faults);
  return decided(rows, faults, snapshot);

  function outputQuantity(product: KnownProduct, identity: Identity, line: BuildLine, path: string): Quantity | null {
    if (identity.kind === 'serial') return serialQuantity(product, line.serial ?? '', line.quantity, path, faults);
    if (line.quantity !== undefined) return lineQuantity(product, line.quantity, path, faults);
    faults.add('quantity.mismatch', path, `Say how much of ${product.code} was made.`, product.code);
    return null;
  }

  function outputMark(product: KnownProduct, identity: Identity, line: BuildLine, path: string, inputs: ReadonlyMap<MarkRef, Quantity>): MarkRef | null {
    const key = keyOf(product, identity);
    const before = made.get(key);
    if (before) {
      if (identity.kind !== 'serial') return before.ref;
      faults.add('mark.duplicate', path, `Serial ${identity.number} is already made at ${sayPath(before.path)}. Remove one of the two.`, identity.number);
      return null;
    }
    const existing = findMark(snapshot, product, identity.kind, identity.number);
    if (existing && identity.kind === 'serial' && !inputs.has(existing.id)) {
      const lies = whereItLies(snapshot, existing);
      faults.add('mark.duplicate', path, lies
        ? `Serial ${existing.number} is already on hand at ${lies}, since ${sayDay(existing.bornOn)}. Give another number; for rework name it among the components too.`
        : `Serial ${existing.number} was already used for ${product.code}, on ${sayDay(existing.bornOn)}. A number is never used twice: give another.`, existing.number!);
      return null;
    }
    const ref = existing?.id ?? (identity.kind === 'lot' ? births.lotMade(product, identity.number) : undefined)
      ?? births.make({ product, identity, with: line, madeHere: true, earliestComponent: earliestOf(inputs), path });
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
    return mark?.expires ?? (mark?.lotId == null ? null : (snapshot.marksById.get(mark.lotId)?.expires ?? null));
  }

  function keyOf(product: KnownProduct, identity: Identity): string { return markKey(product.id, identity.kind, identity.number); }
}
