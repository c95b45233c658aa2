import { Faults, type Fault, type Note } from '../faults/fault.ts';
import { identify, type Identity } from '../ledger/identity.ts';
import { lineQuantity } from '../ledger/line-quantity.ts';
import { findMark, findPlace, findProduct, whereItLies } from '../ledger/lookup.ts';
import type { CountedLine } from '../ledger/request.ts';
import { codeKey, type KnownPlace, type KnownProduct, type Snapshot } from '../ledger/snapshot.ts';
import { sayGone } from '../ledger/use-mark.ts';
import { shown } from '../numbers/number.ts';
import { ONE, parseQuantity, ZERO, type Quantity } from '../quantity/quantity.ts';

/** Where a count counts, and what: product ids, or lots of them; all where none is named. */
export interface CountScope {
  document: string;
  places: ReadonlySet<number>;
  products: ReadonlyMap<number, ReadonlySet<number> | 'all'>;
}

/** One thing counted, as it is kept: what was found, and what the ledger said then. */
export interface CountEntry {
  product: KnownProduct;
  place: KnownPlace;
  identity: Identity;
  /** Null where it is taken back. */
  counted: Quantity | null;
  seen: Quantity;
  line: CountedLine;
}

interface Reading {
  snapshot: Snapshot;
  scope: CountScope;
  faults: Faults;
  entries: Map<string, CountEntry>;
}

/**
 * Reads what somebody counted: each number at each place once, the last one given counts.
 * Faults: product.unknown and place.unknown also for what this count does not count, mark.missing,
 * number.malformed, quantity.mismatch, quantity.not-whole.
 */
export function readEntries(
  snapshot: Snapshot,
  scope: CountScope,
  lines: readonly CountedLine[]
): { entries: CountEntry[]; faults: Fault[]; notes: Note[] } {
  const reading: Reading = { snapshot, scope, faults: new Faults(), entries: new Map() };
  lines.forEach((line, index) => readEntry(reading, line, `lines[${index}]`));
  const { list: faults, notes } = reading.faults;
  return { entries: [...reading.entries.values()], faults, notes };
}

function readEntry(reading: Reading, line: CountedLine, path: string): void {
  const { snapshot, faults, entries } = reading;
  const product = findProduct(snapshot, line.product, `${path}.product`, faults);
  const place = findPlace(snapshot, line.place, `${path}.place`, faults);
  if (!product || !place || !isCounted(reading, product, place, line, path)) return;
  const identity = identify(product, line, 'count', path, faults);
  if (!identity) return;
  const counted = readCounted(product, identity, line, path, faults);
  if (counted === undefined) return;
  const mark = findMark(snapshot, product, identity.kind, identity.number);
  const lying = mark && snapshot.stock.get(mark.id)?.get(codeKey(place.code));
  const seen = lying ?? ZERO;
  tellOfSerial(reading, product, identity, counted, seen, path);
  const key = `${place.id} ${product.id} ${identity.kind} ${codeKey(identity.number)}`;
  entries.set(key, { product, place, identity, counted, seen, line });
}

/** Whether a thing is of this count at all. Faults: place.unknown, product.unknown, mark.unknown. */
function isCounted(
  { snapshot, scope, faults }: Reading,
  product: KnownProduct,
  place: KnownPlace,
  line: CountedLine,
  path: string
): boolean {
  if (!scope.places.has(place.id)) {
    const message = `${place.code} is not counted by ${scope.document}. Count it there, or open a count of it.`;
    faults.add('place.unknown', `${path}.place`, message, place.code);
    return false;
  }
  if (scope.products.size === 0) return true;
  const lots = scope.products.get(product.id);
  if (lots === undefined) {
    const message = `${product.code} is not counted by ${scope.document}. Leave it out.`;
    faults.add('product.unknown', `${path}.product`, message, product.code);
    return false;
  }
  if (lots === 'all' || isOfLots(snapshot, product, lots, line)) return true;
  const number = shown(line.serial ?? line.lot ?? product.code);
  const message = `${number} is not of a lot that ${scope.document} counts. Leave it out.`;
  faults.add('mark.unknown', path, message, number);
  return false;
}

function isOfLots(
  snapshot: Snapshot,
  product: KnownProduct,
  lots: ReadonlySet<number>,
  { lot, serial }: CountedLine
): boolean {
  const named = lot?.trim() ? findMark(snapshot, product, 'lot', lot.trim()) : undefined;
  if (named) return lots.has(named.id);
  const unit = serial?.trim() ? findMark(snapshot, product, 'serial', serial.trim()) : undefined;
  return unit?.lotId != null && lots.has(unit.lotId);
}

/** @returns undefined after a fault; null where the entry is taken back */
function readCounted(
  product: KnownProduct,
  { kind, number }: Identity,
  { quantity: given }: CountedLine,
  path: string,
  faults: Faults
): Quantity | null | undefined {
  if (given === null) return null;
  const text = given?.trim() ?? '';
  if (text === '') return kind === 'serial' ? ONE : tellNoQuantity(product, number, path, faults);
  if (parseQuantity(text)?.isZero()) return ZERO;
  const counted = lineQuantity(product, text, path, faults);
  if (counted === null) return undefined;
  if (kind !== 'serial' || counted.eq(ONE)) return counted;
  const message = `Serial ${number} is one single unit: it is there, 1, or not, 0.`;
  faults.add('quantity.mismatch', path, message, number);
  return undefined;
}

function tellNoQuantity(
  product: KnownProduct,
  number: string,
  path: string,
  faults: Faults
): undefined {
  const what = number === '' ? product.code : `lot ${number} of ${product.code}`;
  const message = `Say how much of ${what} lies there; 0 for nothing.`;
  faults.add('quantity.mismatch', path, message, number || product.code);
  return undefined;
}

/** A serial that lies elsewhere by the ledger, went out, or was never known is told at once. */
function tellOfSerial(
  { snapshot, faults }: Reading,
  product: KnownProduct,
  { kind, number }: Identity,
  counted: Quantity | null,
  seen: Quantity,
  path: string
): void {
  if (kind !== 'serial' || !counted?.eq(ONE) || seen.eq(ONE)) return;
  const mark = findMark(snapshot, product, kind, number);
  const lies = mark && whereItLies(snapshot, mark);
  const name = `Serial ${number}`;
  const elsewhere = `${name} lies at ${lies} by the ledger; it is moved here when the count is approved.`;
  const gone = mark && sayGone(snapshot.gone.get(mark.id));
  const absent = mark
    ? `${name} is not on hand by the ledger: ${gone}.`
    : `${name} of ${product.code} was never known.`;
  faults.note(path, lies ? elsewhere : absent, number);
}
