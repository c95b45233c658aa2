import { isAny, opposite } from '../quantity/quantity.ts';
import { findMark, findPlace, findProduct, nameOf } from '../ledger/lookup.ts';
import type { PartIn } from '../ledger/request.ts';
import type { KnownMark, KnownProduct } from '../ledger/snapshot.ts';
import { sayGone, useMark } from '../ledger/use-mark.ts';
import type { FittingSheet } from './fitting-sheet.ts';
import type { Host } from './host.ts';

/**
 * A part goes from stock into a unit at a position.
 * Faults: part.fitted where it is in a unit already, mark.duplicate for the unit itself, those of
 * `useMark`.
 * @param host null where it was not found; then only the line itself is looked at
 */
export function putIn(sheet: FittingSheet, host: Host | null, line: PartIn, path: string): void {
  const { snapshot, faults, rows, available, usedSerials, place } = sheet;
  const product = findProduct(snapshot, line.product, `${path}.product`, faults);
  if (!product || isElsewhere(sheet, host, product, line, path)) return;
  const from =
    line.from === undefined ? null : findPlace(snapshot, line.from, `${path}.from`, faults);
  if (line.from !== undefined && !from) return;
  const asked = {
    product,
    checkpoint: 'issue',
    named: amountOf(line),
    only: from,
    first: place,
    path,
    mustBeUsable: true
  } as const;
  const used = useMark(snapshot, available, usedSerials, asked, faults);
  if (!used || !host) return;
  sheet.taken.set(used.ref, path);
  for (const taking of used.takings)
    rows.movements.push({
      mark: used.ref,
      placeId: taking.place.id,
      quantity: opposite(taking.quantity)
    });
  rows.fittings.push({
    part: used.ref,
    host: host.mark.id,
    quantity: used.quantity,
    position: line.position?.trim() || null
  });
  rows.answer.push(used.ref);
}

/** One of it where no quantity is said; a serial is one anyhow. */
const amountOf = (line: PartIn): PartIn =>
  line.serial || line.quantity?.trim() ? line : { ...line, quantity: '1' };

/** Whether the part cannot go in because of where it is: in a unit, or the unit itself. */
function isElsewhere(
  { snapshot, faults, available }: FittingSheet,
  host: Host | null,
  product: KnownProduct,
  line: PartIn,
  path: string
): boolean {
  const part = line.serial ? findMark(snapshot, product, 'serial', line.serial) : null;
  if (!part) return false;
  if (part.id === host?.mark.id) {
    const name = saidOf(part, product);
    faults.add('part.fitted', path, `${name} cannot go into itself. Take another.`, part.number!);
    return true;
  }
  if (host?.cameOut.has(part.id)) {
    const message = `${saidOf(part, product)} comes out of ${host.mark.number} in the same booking. Leave it in, or book the two apart.`;
    faults.add('mark.duplicate', path, message, part.number!);
    return true;
  }
  const gone = snapshot.gone.get(part.id);
  if (!gone?.into || isAny(available.amount(part.id))) return false;
  const message = `${saidOf(part, product)} is in a unit already: ${sayGone(gone)}. Take it out there first, or take another.`;
  faults.add('part.fitted', path, message, part.number!);
  return true;
}

const saidOf = (part: KnownMark, product: KnownProduct): string =>
  `${nameOf(part, product)} of ${product.code}`;
