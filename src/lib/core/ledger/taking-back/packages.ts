import { opposite, total } from '../../quantity/quantity.ts';
import type { MarkRef } from '../booking.ts';
import type { KnownPacking, KnownUnit } from '../snapshot.ts';
import { sayMark, type Undoing } from './undoing.ts';

/**
 * The cartons and pallets of a shipment that is taken back stand here again, each whole.
 * Faults: quantity.mismatch where only some of what a carton holds would come back.
 */
export function takeUnitsBack(undoing: Undoing, chosen: ReadonlySet<MarkRef>): void {
  const { event, snapshot, rows, faults } = undoing;
  const units = event.shipped.flatMap((sscc) => snapshot.units.get(sscc) ?? []);
  const inside = (unit: KnownUnit): MarkRef[] => [
    ...unit.contents.keys(),
    ...unit.cartons.flatMap((sscc) => [...(snapshot.units.get(sscc)?.contents.keys() ?? [])])
  ];
  const everything = event.movements.every(({ mark }) => chosen.has(mark));
  for (const unit of units) {
    const marks = inside(unit);
    const coming = marks.filter((mark) => chosen.has(mark));
    const stays = marks.length === 0 ? !everything : coming.length === 0;
    if (stays) continue;
    if (coming.length === marks.length) rows.unitsBack.push(unit.id);
    else {
      const others = marks.filter((mark) => !chosen.has(mark));
      const named = [...new Set(others)].map((mark) => sayMark(undoing, mark)).join(', ');
      const message = `${unit.kind} ${unit.sscc} left whole and comes back whole: take ${named} back with it.`;
      faults.add('quantity.mismatch', 'units', message, unit.sscc);
    }
  }
}

/**
 * A packing is taken back: what was put in comes out, what was taken out is in again.
 * Faults: event.moved-on.
 */
export function takePackingBack(undoing: Undoing): void {
  const { event, rows } = undoing;
  rows.reverses = { event: event.id, transformations: [] };
  for (const packing of event.packings) {
    if (!mayUnpack(undoing, packing)) continue;
    const { unitId, mark, childId, quantity } = packing;
    rows.packings.push({
      unit: unitId,
      quantity: opposite(quantity),
      ...(mark === null ? { child: childId! } : { mark })
    });
  }
}

function mayUnpack(undoing: Undoing, packing: KnownPacking): boolean {
  const { snapshot, faults } = undoing;
  const unit = snapshot.units.get(packing.unit)!;
  const child = packing.child === null ? null : snapshot.units.get(packing.child)!;
  const why = whyNot(undoing, packing, unit, child);
  if (why === null) return true;
  faults.add('event.moved-on', 'event', why, packing.child ?? packing.unit);
  return false;
}

function whyNot(
  undoing: Undoing,
  { mark, quantity }: KnownPacking,
  unit: KnownUnit,
  child: KnownUnit | null
): string | null {
  const gone = [unit, child].find((one) => one?.shipped);
  if (gone)
    return `${gone.kind} ${gone.sscc} has left with ${gone.shipped}. Take that shipment back first.`;
  const putIn = quantity.gt(0);
  if (child) {
    const standsOn = putIn ? unit.sscc : null;
    if (child.pallet === standsOn) return null;
    return putIn
      ? `Carton ${child.sscc} no longer stands on pallet ${unit.sscc}. Take what moved it back first.`
      : `Carton ${child.sscc} stands on pallet ${child.pallet} now. Take it off there first.`;
  }
  const name = sayMark(undoing, mark!);
  if (putIn)
    return (unit.contents.get(mark!)?.gte(quantity) ?? false)
      ? null
      : `${name} is no longer in ${unit.kind} ${unit.sscc}. Take what moved it back first.`;
  const packed = total((undoing.snapshot.packed.get(mark!) ?? []).map((row) => row.quantity));
  const free = undoing.available.amount(mark!).minus(packed);
  return free.gte(quantity.abs())
    ? null
    : `${name} is no longer free to lie in ${unit.kind} ${unit.sscc} again. Take what used it back first.`;
}
