import { daysLater, isDay } from '../calendar/day.ts';
import { sayDay } from '../calendar/say-day.ts';
import { shown } from '../numbers/number.ts';
import { formatQuantity, total, type Quantity } from '../quantity/quantity.ts';
import { addNewMark, emptyRows, type Decision, type MarkRef } from './booking.ts';
import { Faults } from './fault.ts';
import { identify } from './identity.ts';
import { lineQuantity, serialQuantity } from './line-quantity.ts';
import { findMark, findPartner, findPlace, findProduct, nameOf, whereItLies } from './lookup.ts';
import { checkOrder, type Booked } from './order-check.ts';
import type { Receipt, ReceiptLine, ReceivedMark, Wants } from './request.ts';
import { markKey, type KnownProduct, type Snapshot } from './snapshot.ts';

export const receiptWants = (request: Receipt): Wants => ({
  products: request.lines.map((line) => line.product),
  places: request.lines.map((line) => line.place),
  partner: request.supplier,
  order: { kind: 'purchase', number: request.document },
  marks: request.lines.flatMap((line) => (line.marks?.length ? line.marks : [{}]).map((mark) => ({ ...mark, product: line.product }))),
  draws: false
});

/**
 * Decides a receipt: which marks are born, which lots are added to, what goes where.
 * Faults: mark.missing, mark.duplicate, mark.wrong-product, quantity.mismatch, quantity.not-whole, number.malformed,
 * date.missing, order.closed, product.unknown, place.unknown, partner.unknown.
 */
export function decideReceipt(snapshot: Snapshot, request: Receipt): Decision {
  const faults = new Faults();
  const rows = emptyRows();
  const partner = findPartner(snapshot, request.supplier, 'supplier', 'supplier', faults);
  rows.partnerId = partner?.id ?? null;
  rows.orderId = snapshot.order?.id ?? null;
  const booked: Booked[] = [];
  /** Every mark of this sheet by key: how the rows name it and where it first stood. */
  const seen = new Map<string, { ref: MarkRef; path: string; where: string; expires: string | null }>();

  request.lines.forEach((line, index) => {
    const path = `lines[${index}]`;
    const product = findProduct(snapshot, line.product, `${path}.product`, faults);
    const place = findPlace(snapshot, line.place, `${path}.place`, faults);
    if (!product) return;
    const asked = lineQuantity(product, line.quantity, `${path}.quantity`, faults);
    const named = namedMarks(product, line);
    if (named.length === 0) {
      faults.add('mark.missing', `${path}.marks`, `${product.code} ${product.name} needs ${product.marking === 'lot' ? 'a lot' : 'serials'} here. Type, scan or paste ${asked && product.marking !== 'lot' ? `${formatQuantity(asked)} of them` : 'it'}.`);
      return;
    }
    const inLine = new Set<string>();
    const quantities: Quantity[] = [];
    let complete = true;
    named.forEach((mark, at) => {
      const markPath = product.marking === 'none' ? path : `${path}.marks[${at}]`;
      const amount = markQuantity(product, mark, line, named.length, markPath);
      if (amount) quantities.push(amount);
      const ref = markFor(product, mark, markPath, `row ${at + 1}${request.lines.length > 1 ? ` of line ${index + 1}` : ''}`, inLine);
      if (!amount || ref === null) { complete = false; return; }
      if (place) rows.movements.push({ mark: ref, placeId: place.id, quantity: amount });
      rows.answer.push(ref);
    });
    if (asked && complete && !total(quantities).eq(asked)) {
      const sum = formatQuantity(total(quantities));
      const what = product.marking === 'lot' ? `its lots add up to ${sum}` : `${sum} serial${sum === '1' ? ' is' : 's are'} given`;
      faults.add('quantity.mismatch', `${path}.quantity`, `${product.code} arrives with ${formatQuantity(asked)} ${product.unit} but ${what}. Make the two the same.`, product.code);
    }
    if (asked) booked.push({ product, quantity: asked, path: `${path}.quantity` });
  });

  checkOrder(snapshot, booked, partner?.code ?? null, 'refuse', faults);
  return faults.list.length > 0 ? { ok: false, faults: faults.list, notes: faults.notes } : { ok: true, rows, notes: faults.notes };

  function markQuantity(product: KnownProduct, mark: ReceivedMark, line: ReceiptLine, rowsOfLine: number, path: string): Quantity | null {
    if (product.marking === 'none') return lineQuantity(product, line.quantity, path, new Faults());      // its faults are told already
    if (product.marking !== 'lot') return serialQuantity(product, shown(mark.serial ?? ''), mark.quantity, path, faults);
    if (mark.quantity !== undefined && mark.quantity.trim() !== '') return lineQuantity(product, mark.quantity, path, faults);
    if (rowsOfLine === 1) return lineQuantity(product, line.quantity, path, new Faults());
    faults.add('quantity.mismatch', path, `Lot ${shown(mark.lot ?? '')} has no quantity. Say how much of ${product.code} it holds.`, shown(mark.lot ?? ''));
    return null;
  }

  function markFor(product: KnownProduct, mark: ReceivedMark, path: string, where: string, inLine: Set<string>): MarkRef | null {
    const identity = identify(product, mark, 'birth', path, faults);
    if (!identity) return null;
    const expires = expiryOf(product, mark, path);
    if (expires === undefined) return null;
    const supplierNumber = mark.supplierNumber?.trim() || null;
    if (supplierNumber !== null && supplierNumber.length > 100) {
      faults.add('number.malformed', path, `The supplier number has ${supplierNumber.length} characters and 100 are the most.`, shown(supplierNumber));
      return null;
    }
    const key = markKey(product.id, identity.kind, identity.number);
    if (identity.kind !== 'bulk' && inLine.has(key)) {
      const first = seen.get(key);
      faults.add('mark.duplicate', path, `${identity.kind === 'lot' ? 'Lot' : 'Serial'} ${identity.number} is already in ${first?.where ?? 'this sheet'} of this sheet. Remove one of the two.`, identity.number);
      return null;
    }
    inLine.add(key);
    const before = seen.get(key);
    if (before) {
      if (identity.kind !== 'serial') return before.ref;
      faults.add('mark.duplicate', path, `Serial ${identity.number} is already in ${before.where} of this sheet. Remove one of the two.`, identity.number);
      return null;
    }
    const existing = findMark(snapshot, product, identity.kind, identity.number);
    let ref: MarkRef | null;
    if (existing && identity.kind === 'serial') {
      const lies = whereItLies(snapshot, existing);
      faults.add('mark.duplicate', path, lies
        ? `Serial ${existing.number} is already on hand at ${lies}, since ${sayDay(existing.bornOn)}. Remove it here or give another number.`
        : `Serial ${existing.number} was already used for ${product.code}, on ${sayDay(existing.bornOn)}, and has left since. A number is never used twice: give another.`, existing.number!);
      ref = null;
    } else if (existing) {
      if (mark.expires && existing.expires !== mark.expires) {
        faults.add('mark.duplicate', path, `${nameOf(existing, product)} is known ${existing.expires ? `to expire on ${sayDay(existing.expires)}` : 'without an expiry'}, and here ${sayDay(mark.expires)} is given. Give the same date, another lot, or amend the lot first.`, existing.number!);
        return null;
      }
      if (existing.state !== 'usable') faults.note(path, `${nameOf(existing, product)} is ${existing.state}; what is added to it will be too.`, existing.number!);
      ref = existing.id;
    } else {
      const lot = identity.lot === null ? null : lotRef(product, identity.lot, expires);
      if (expires !== null && expires < snapshot.day) faults.note(path, `${identity.number} expired on ${sayDay(expires)}: it can be received, but not used or shipped.`, identity.number);
      ref = addNewMark(rows, {
        productId: product.id, kind: identity.kind, number: identity.kind === 'bulk' ? null : identity.number, lot, supplierNumber,
        madeOn: null, expiresOn: identity.kind === 'bulk' ? null : expires, warrantyMonths: product.warrantyMonths
      });
    }
    if (ref !== null) seen.set(key, { ref, path, where, expires });
    return ref;
  }

  /** The lot a serial is within, made with it where it is new. */
  function lotRef(product: KnownProduct, lot: string, expires: string | null): MarkRef {
    const key = markKey(product.id, 'lot', lot);
    const known = seen.get(key)?.ref ?? findMark(snapshot, product, 'lot', lot)?.id;
    if (known !== undefined) return known;
    const ref = addNewMark(rows, { productId: product.id, kind: 'lot', number: lot, lot: null, supplierNumber: null, madeOn: null, expiresOn: expires, warrantyMonths: null });
    seen.set(key, { ref, path: '', where: '', expires });
    return ref;
  }

  /** Given, or computed from the shelf life; undefined after a fault. */
  function expiryOf(product: KnownProduct, mark: ReceivedMark, path: string): string | null | undefined {
    const given = mark.expires?.trim();
    if (given) {
      if (isDay(given)) return given;
      faults.add('date.missing', path, `“${shown(given)}” is no date. Give the expiry as year-month-day, such as ${daysLater(snapshot.day, 365)}.`, shown(given));
      return undefined;
    }
    return product.shelfLifeDays === null ? null : daysLater(snapshot.day, product.shelfLifeDays);
  }
}

/** The rows of a line: one bulk row for what has no numbers, otherwise what was given. */
function namedMarks(product: KnownProduct, line: ReceiptLine): ReceivedMark[] {
  const given = line.marks ?? [];
  return product.marking === 'none' && given.length === 0 ? [{}] : given;
}
