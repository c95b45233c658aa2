import { namedOrLoose } from '../ledger/identity.ts';
import { lineQuantity, serialQuantity } from '../ledger/line-quantity.ts';
import { findMark, findPlace, findProduct, nameOf, whereItLies } from '../ledger/lookup.ts';
import type { PartOut } from '../ledger/request.ts';
import type { KnownMark, KnownProduct } from '../ledger/snapshot.ts';
import { sayGone } from '../ledger/use-mark.ts';
import { ZERO, formatQuantity, isAny, opposite, type Quantity } from '../quantity/quantity.ts';
import type { FittingSheet } from './fitting-sheet.ts';
import type { Host } from './host.ts';

/**
 * A part comes out of a unit to a place: usable, held, or scrapped in the same booking.
 * Faults: part.absent, quantity.mismatch, mark.duplicate, mark.unknown, place.unknown.
 * @param host null where it was not found; then only the line itself is looked at
 */
export function takeOut(sheet: FittingSheet, host: Host | null, line: PartOut, path: string): void {
  const { snapshot, faults, rows, available } = sheet;
  const product = findProduct(snapshot, line.product, `${path}.product`, faults);
  const to = findPlace(snapshot, line.to, `${path}.to`, faults);
  const part = product && findPart(sheet, product, line, path);
  if (!host || !product || !part || !to) return;
  const amount = amountOut(sheet, host, product, part, line, path);
  if (!amount) return;
  const before = host.inside.get(part.id)!;
  host.inside.set(part.id, before === amount ? ZERO : before.minus(amount));
  rows.movements.push({ mark: part.id, placeId: to.id, quantity: amount });
  rows.removals.push({
    part: part.id,
    host: host.mark.id,
    quantity: amount,
    position: line.position?.trim() || null
  });
  host.cameOut.add(part.id);
  rows.answer.push(part.id);
  if (line.state === 'scrap')
    sheet.scrapped.push({ mark: part.id, placeId: to.id, quantity: opposite(amount) });
  else available.add(part.id, to, amount);
  if (line.state === 'held' && part.state === 'usable') holdIt(sheet, part, product, path);
}

function findPart(
  { snapshot, faults }: FittingSheet,
  product: KnownProduct,
  line: PartOut,
  path: string
): KnownMark | null {
  const named = namedOrLoose(product, line, path, faults);
  if (!named) return null;
  const mark = findMark(snapshot, product, named.kind, named.number);
  if (mark) return mark;
  const name = nameOf({ kind: named.kind, number: named.number }, product);
  const message = `There is no ${name} of ${product.code}, so it is in no unit. Check the number on the part.`;
  faults.add('mark.unknown', path, message, named.number || product.code);
  return null;
}

/** How much comes out; of a lot all that is in it where nothing is said. */
function amountOut(
  sheet: FittingSheet,
  host: Host,
  product: KnownProduct,
  part: KnownMark,
  line: PartOut,
  path: string
): Quantity | null {
  const { faults } = sheet;
  const number = part.number ?? product.code;
  const there = host.inside.get(part.id) ?? ZERO;
  if (!isAny(there)) {
    faults.add('part.absent', path, absent(sheet, host, product, part), number);
    return null;
  }
  if (part.kind === 'serial') return serialQuantity(product, number, line.quantity, path, faults);
  const asked = line.quantity?.trim();
  const amount = asked ? lineQuantity(product, asked, path, faults) : there;
  if (!amount || amount.lte(there)) return amount;
  const message = `${formatQuantity(there)} ${product.unit} of ${nameOf(part, product)} are in ${host.mark.number}, so ${formatQuantity(amount)} cannot come out.`;
  faults.add('quantity.mismatch', path, message, number);
  return null;
}

/** Why a part is not in the unit: where it is instead, and what the unit has. */
function absent(
  { snapshot }: FittingSheet,
  host: Host,
  product: KnownProduct,
  part: KnownMark
): string {
  const lies = whereItLies(snapshot, part);
  const gone = snapshot.gone.get(part.id);
  const went = gone ? sayGone(gone) : 'it never went into it';
  const where = lies ? `it lies at ${lies}` : went;
  const others = [...host.inside.keys()].flatMap((ref) => {
    const mark = snapshot.marksById.get(ref);
    return mark?.productId === product.id && mark.number !== null ? [mark.number] : [];
  });
  const has = others.length > 0 ? ` It has ${others.join(', ')}.` : '';
  return `${nameOf(part, product)} of ${product.code} is not in ${host.mark.number} now: ${where}.${has} Check the number on the part.`;
}

/** Held is the whole mark: not where good stock of the same lot would be held with it. */
function holdIt(
  { snapshot, rows, faults }: FittingSheet,
  part: KnownMark,
  product: KnownProduct,
  path: string
): void {
  const others = part.kind === 'serial' ? null : whereItLies(snapshot, part);
  if (others) {
    const message = `${nameOf(part, product)} also lies at ${others}, so it is not held as a whole: hold the lot if it must be.`;
    faults.note(path, message, part.number ?? undefined);
    return;
  }
  if (!rows.changes.some((change) => change.mark === part.id))
    rows.changes.push({ mark: part.id, field: 'state', from: 'usable', to: 'held' });
}
