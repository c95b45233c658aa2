import { sayDay, sayDistance } from '../calendar/say-day.ts';
import type { Born } from '../ledger/birth.ts';
import type { MarkRef } from '../ledger/booking.ts';
import { bornAgain, mayBeBornAgain } from '../ledger/born-again.ts';
import { whereItLies } from '../ledger/lookup.ts';
import type { KnownMark, KnownProduct } from '../ledger/snapshot.ts';
import { numberKey } from '../numbers/number.ts';
import { addToKnown, sameAsBefore } from './add-to-known.ts';
import { sayRow, seenOf, type ReceivedRow, type ReceivingSheet } from './received-row.ts';

/**
 * The mark a row means: one that is known and takes more, or one born by this receipt.
 * Faults: mark.duplicate, and those of its dates and facts.
 * @returns how the rows name it; null after a fault
 */
export function markOfRow(
  sheet: ReceivingSheet,
  product: KnownProduct,
  row: ReceivedRow
): MarkRef | null {
  const { known, rows: first } = seenOf(sheet, product)[row.identity.kind];
  const key = numberKey(row.identity.number);
  const before = first.get(key);
  if (before) return sameMark(sheet, row, before);
  const existing = known?.get(key);
  const ref = existing ? more(sheet, product, existing, row) : born(sheet, product, row);
  if (ref === null) return null;
  row.ref = ref;
  first.set(key, row);
  return ref;
}

/** A mark that stands in an earlier row too: a serial and a lot of the same line never do. */
function sameMark(sheet: ReceivingSheet, row: ReceivedRow, before: ReceivedRow): MarkRef | null {
  const { kind, number } = row.identity;
  const sameLine = before.line === row.line && kind === 'lot' && !row.rest;
  if (kind !== 'serial' && !sameLine) return sameAsBefore(sheet, row, before) ? before.ref : null;
  const what = kind === 'lot' ? 'Lot' : 'Serial';
  const message = `${what} ${number} is already in ${sayRow(sheet, before)} of this sheet. Remove one of the two.`;
  sheet.faults.add('mark.duplicate', row.path, message, number);
  return null;
}

/** More of a mark that is known already: a lot takes it, a serial never. */
function more(
  sheet: ReceivingSheet,
  product: KnownProduct,
  existing: KnownMark,
  row: ReceivedRow
): MarkRef | null {
  if (existing.kind === 'bulk') return existing.id;
  if (mayBeBornAgain(sheet.snapshot, existing)) return again(sheet, product, existing, row);
  if (existing.kind === 'lot') return addToKnown(sheet, product, existing, row);
  const lies = whereItLies(sheet.snapshot, existing);
  const since = sayDay(existing.bornOn);
  sheet.faults.add(
    'mark.duplicate',
    row.path,
    lies
      ? `Serial ${existing.number} is already on hand at ${lies}, since ${since}. Remove it here or give another number.`
      : `Serial ${existing.number} was already used for ${product.code}, on ${since}, and has left since. A number is never used twice: give another.`,
    existing.number!
  );
  return null;
}

/** A number whose receipt was taken back is received once more. */
function again(
  { snapshot, rows, faults }: ReceivingSheet,
  product: KnownProduct,
  existing: KnownMark,
  row: ReceivedRow
): MarkRef | null {
  return bornAgain(snapshot, rows, faults, existing, asNew(product, row));
}

const asNew = (product: KnownProduct, { identity, mark, path }: ReceivedRow): Born => ({
  ...{ product, identity, with: mark, path },
  madeHere: false,
  earliestComponent: null
});

function born(sheet: ReceivingSheet, product: KnownProduct, row: ReceivedRow): MarkRef | null {
  const { identity } = row;
  const made = identity.kind === 'lot' ? sheet.births.lotMade(product, identity.number) : undefined;
  if (made !== undefined) return made;
  const ref = sheet.births.make(asNew(product, row));
  return ref !== null && mayArrive(sheet, product, row, ref) ? ref : null;
}

/** Goods that arrive expired are answered as the plan says. */
function mayArrive(
  { coming, snapshot, rows, faults }: ReceivingSheet,
  product: KnownProduct,
  { identity, path }: ReceivedRow,
  ref: MarkRef
): boolean {
  const { expiresOn } = rows.newMarks[-ref - 1]!;
  if (expiresOn === null || expiresOn >= snapshot.day) return true;
  const expired = `${identity.number} expired on ${sayDay(expiresOn)}, ${sayDistance(expiresOn, snapshot.day)}`;
  if (coming === 'opening') {
    faults.note(path, `${expired}: it is kept, but not used or shipped.`, identity.number);
    return true;
  }
  const message = `${expired}: it can be received, but not used or shipped.`;
  return faults.answer(product.plan, 'arrives expired', path, message, identity.number);
}
