import type { Faults } from '../faults/fault.ts';
import { decided, type Decision, type MarkRef } from '../ledger/booking.ts';
import { lineQuantity } from '../ledger/line-quantity.ts';
import { findPlace, findProduct } from '../ledger/lookup.ts';
import { ofUnknownAge } from '../ledger/of-unknown-age.ts';
import type { Opening, OpeningLine, Wants } from '../ledger/request.ts';
import type { KnownPlace, KnownProduct, Snapshot } from '../ledger/snapshot.ts';
import { formatQuantity, quantity, type Quantity } from '../quantity/quantity.ts';
import { costed, readUnitCost } from '../stock/unit-cost.ts';
import { markOfRow } from './mark-of-row.ts';
import { readLine } from './read-line.ts';
import { sheetOf, type ReceivedRow, type ReceivingSheet } from './received-row.ts';

export const openingWants = (request: Opening): Wants => ({
  products: request.lines.map((line) => line.product),
  places: request.lines.map((line) => line.place),
  partner: null,
  order: null,
  marks: request.lines.map((line) => ({ product: line.product, marks: line.marks ?? [] })),
  draws: true,
  opened: true
});

/**
 * Decides opening stock: what lay here before Earmark, kept where it lies. It is read as a receipt
 * is, without order, supplier or quarantine; nothing is computed from the day it was booked, which
 * says nothing of its age.
 * Faults: those of a receipt's lines; date.missing where neither expiry nor day of making is given
 * and the plan would compute it.
 */
export function decideOpening(snapshot: Snapshot, request: Opening): Decision {
  const sheet = sheetOf('opening', snapshot, request);
  request.lines.forEach((line, index) => takeLine(sheet, line, index));
  return decided(sheet.rows, sheet.faults, snapshot);
}

function takeLine(sheet: ReceivingSheet, line: OpeningLine, index: number): void {
  const { snapshot, rows, faults } = sheet;
  const path = `lines[${index}]`;
  const product = findProduct(snapshot, line.product, `${path}.product`, faults);
  const place = findPlace(snapshot, line.place, `${path}.place`, faults);
  if (!product) return;
  const asked = lineQuantity(product, line.quantity, `${path}.quantity`, faults, line.unit);
  const ofLine = readUnitCost(product, line.unitCost, `${path}.unitCost`, faults);
  const costs = costsOfMarks(product, line, path, faults);
  for (const row of readLine(sheet, { product, line, index, asked, path })) {
    const mark = markOfRow(sheet, ofUnknownAge(product, row.mark.made), row);
    if (mark === null) continue;
    if (place && openedBefore(sheet, product, row, mark, place)) continue;
    rows.answer.push(mark);
    const cost = costs.get(row.at) ?? ofLine;
    if (place)
      rows.movements.push(costed({ mark, placeId: place.id, quantity: row.quantity }, cost));
  }
}

/**
 * What lay at a place before Earmark lay there once: a file that is sent again with a few rows
 * mended doubles nothing.
 * Faults: mark.duplicate.
 */
function openedBefore(
  { snapshot, faults }: ReceivingSheet,
  product: KnownProduct,
  row: ReceivedRow,
  mark: MarkRef,
  place: KnownPlace
): boolean {
  const before = snapshot.opened.get(mark)?.find((one) => one.place === place.id);
  if (!before) return false;
  const number = row.identity.number;
  const name = number === '' ? product.code : `${row.identity.kind} ${number} of ${product.code}`;
  const amount = formatQuantity(quantity(before.quantity));
  const message = `${amount} ${product.unit} of ${name} came in at ${place.code} as opening stock already, ${before.document}. Leave the row out; if there is more, count the place.`;
  faults.add('mark.duplicate', row.path, message, number || product.code);
  return true;
}

/** What single marks cost where they say so themselves, by their row. */
function costsOfMarks(
  product: KnownProduct,
  line: OpeningLine,
  path: string,
  faults: Faults
): ReadonlyMap<number, Quantity> {
  const costs = new Map<number, Quantity>();
  line.marks?.forEach((mark, at) => {
    const cost = readUnitCost(product, mark.unitCost, `${path}.marks[${at}].unitCost`, faults);
    if (cost !== null) costs.set(at, cost);
  });
  return costs;
}
