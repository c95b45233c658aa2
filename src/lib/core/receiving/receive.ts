import { decided, type Decision } from '../ledger/booking.ts';
import { lineQuantity } from '../ledger/line-quantity.ts';
import { findPartner, findPlace, findProduct } from '../ledger/lookup.ts';
import { checkOrder, type Booked } from '../ledger/order-check.ts';
import type { Receipt, ReceiptLine, Wants } from '../ledger/request.ts';
import type { Snapshot } from '../ledger/snapshot.ts';
import { costed, readUnitCost } from '../stock/unit-cost.ts';
import { placeFor } from '../stock/quarantine.ts';
import { markOfRow } from './mark-of-row.ts';
import { readLine } from './read-line.ts';
import { sheetOf, type ReceivingSheet } from './received-row.ts';
import { tellAnnounced } from './tell-announced.ts';

export const receiptWants = (request: Receipt): Wants => ({
  products: request.lines.map((line) => line.product),
  places: request.lines.map((line) => line.place),
  partner: request.supplier,
  order: { kind: 'purchase', number: request.document },
  marks: request.lines.map((line) => ({ product: line.product, marks: line.marks ?? [] })),
  draws: false
});

/**
 * Decides a receipt: which marks are born, which lots are added to, what goes where.
 * Where the plan lets numbers come later, what is not numbered is kept by quantity until it is.
 * Faults: mark.missing, mark.duplicate, mark.wrong-product, quantity.mismatch, quantity.not-whole,
 * number.malformed, date.missing, fact.missing, mark.off-spec, mark.expired, order.closed,
 * product.unknown, place.unknown, partner.unknown.
 */
export function decideReceipt(snapshot: Snapshot, request: Receipt): Decision {
  const sheet = sheetOf('receipt', snapshot, request);
  const { rows, faults } = sheet;
  const partner = findPartner(snapshot, request.supplier, 'supplier', 'supplier', faults);
  rows.partnerId = partner?.id ?? null;
  rows.orderId = snapshot.order?.id ?? null;
  const booked = request.lines.flatMap((line, index) => takeLine(sheet, line, index) ?? []);
  tellAnnounced(sheet);
  checkOrder(snapshot, booked, partner?.code ?? null, 'refuse', faults);
  return decided(rows, faults, snapshot);
}

/** @returns what the line counts against the order; null where it says no quantity */
function takeLine(sheet: ReceivingSheet, line: ReceiptLine, index: number): Booked | null {
  const { snapshot, rows, faults } = sheet;
  const path = `lines[${index}]`;
  const product = findProduct(snapshot, line.product, `${path}.product`, faults);
  const named = findPlace(snapshot, line.place, `${path}.place`, faults);
  if (!product) return null;
  const sent = product.plan.receivedTo === 'quarantine';
  const place = named && placeFor(snapshot, product, sent, named, `${path}.place`, faults);
  const asked = lineQuantity(product, line.quantity, `${path}.quantity`, faults, line.unit);
  const told = readUnitCost(product, line.unitCost, `${path}.unitCost`, faults);
  const unitCost = told ?? snapshot.order?.lines.get(product.id)?.price;
  for (const row of readLine(sheet, { product, line, index, asked, path })) {
    const mark = markOfRow(sheet, product, row);
    if (mark === null) continue;
    if (place)
      rows.movements.push(costed({ mark, placeId: place.id, quantity: row.quantity }, unitCost));
    rows.answer.push(mark);
  }
  return asked && { product, quantity: asked, path: `${path}.quantity` };
}
