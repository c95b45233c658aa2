import { sayDay } from '../calendar/say-day.ts';
import { formatQuantity, type Quantity } from '../quantity/quantity.ts';
import { decided, emptyRows, type Decision, type Rows } from '../ledger/booking.ts';
import { Faults } from '../faults/fault.ts';
import { markNamed } from '../ledger/identity.ts';
import { lineQuantity, serialQuantity } from '../ledger/line-quantity.ts';
import { findMark, findPlace, findProduct, nameOf, whereItLies } from '../ledger/lookup.ts';
import type { GoodsReturn, Wants } from '../ledger/request.ts';
import {
  codeKey,
  type KnownMark,
  type KnownPartner,
  type KnownProduct,
  type Sale,
  type Snapshot
} from '../ledger/snapshot.ts';
import { placeFor } from '../stock/quarantine.ts';
import { sayGone } from '../ledger/use-mark.ts';

export const returnWants = (request: GoodsReturn): Wants => ({
  products: request.lines.map((line) => line.product),
  places: [request.place],
  partner: request.customer ?? null,
  order: null,
  marks: request.lines.map((line) => ({ product: line.product, marks: [line] })),
  draws: true,
  sales: true,
  recalled: true
});

/** A line of a return as it was read: what comes back, and by which sales it may have left. */
interface ReadLine {
  mark: KnownMark;
  product: KnownProduct;
  amount: Quantity;
  sales: readonly Sale[];
  path: string;
}

/** One return being decided. */
interface Returning {
  snapshot: Snapshot;
  partner: KnownPartner | null;
  rows: Rows;
  faults: Faults;
  /** Marks named so far. */
  seen: Set<number>;
}

/**
 * Decides taking shipped goods back: each finds its sale, lies at the returns place, and is held
 * until somebody decides. A lot comes back from its latest shipments first. Held is the whole mark:
 * of a lot that also has good stock here, only what came back may be meant, so it is not held but
 * told.
 * Faults: mark.unknown, mark.duplicate, quantity.*, stock.short (never shipped, or back already),
 * partner.unknown, place.unknown, product.unknown.
 */
export function decideReturn(snapshot: Snapshot, request: GoodsReturn): Decision {
  const faults = new Faults();
  const rows = emptyRows();
  const named = findPlace(snapshot, request.place, 'place', faults);
  const partner = findCustomer(snapshot, request.customer, faults);
  const returning: Returning = { snapshot, partner, rows, faults, seen: new Set() };
  const customers = new Map<string, number>();
  request.lines.forEach((line, index) => {
    const read = readLine(returning, line, `lines[${index}]`);
    if (!read || !named || !takeBack(returning, read)) return;
    const sent = isSent(snapshot, read);
    const place = placeFor(snapshot, read.product, sent, named, read.path, faults);
    if (!place) return;
    for (const sale of read.sales)
      if (sale.partner !== null) customers.set(sale.partner, sale.partnerId!);
    rows.movements.push({ mark: read.mark.id, placeId: place.id, quantity: read.amount });
    rows.answer.push(read.mark.id);
    hold(returning, read, place.quarantine);
  });
  rows.partnerId = partner?.id ?? [...customers.values()][0] ?? null;
  if (partner === null && customers.size > 1) {
    const names = [...customers.keys()].join(' and ');
    const message = `These were shipped to ${names}. Book a return for each.`;
    faults.add('partner.unknown', 'customer', message);
  }
  return decided(rows, faults, snapshot);
}

/** Whether the plan has it lie in quarantine first: all that comes back, or what is recalled. */
function isSent({ recalled }: Snapshot, { mark, product }: ReadLine): boolean {
  const { returnedTo, recalledTo } = product.plan;
  return returnedTo === 'quarantine' || (recalledTo === 'quarantine' && recalled.has(mark.id));
}

function findCustomer(
  snapshot: Snapshot,
  code: string | undefined,
  faults: Faults
): KnownPartner | null {
  if (code === undefined) return null;
  const partner = snapshot.partners.get(codeKey(code)) ?? null;
  if (!partner) {
    const message = `There is no partner ${code}. Check the code, or leave it out: the sale names its customer.`;
    faults.add('partner.unknown', 'customer', message, code);
  }
  return partner;
}

function readLine(
  returning: Returning,
  line: GoodsReturn['lines'][number],
  path: string
): ReadLine | null {
  const { snapshot, partner, faults, seen } = returning;
  const product = findProduct(snapshot, line.product, `${path}.product`, faults);
  const identity = product && markNamed(product, line, path, faults);
  if (!product || !identity) return null;
  const { kind, number } = identity;
  const mark = findMark(snapshot, product, kind, number);
  if (!mark) {
    const message = `There is no ${kind} ${number} of ${product.code} ${product.name}, so it was never shipped from here. Check the number.`;
    faults.add('mark.unknown', path, message, number);
    return null;
  }
  const amount =
    mark.kind === 'serial'
      ? serialQuantity(product, number, line.quantity, path, faults)
      : lineQuantity(product, line.quantity ?? '', path, faults);
  if (!amount) return null;
  if (seen.has(mark.id)) {
    const mend = mark.kind === 'serial' ? 'Remove one of the two.' : 'Put the two lines together.';
    faults.add('mark.duplicate', path, `${nameOf(mark, product)} is named twice. ${mend}`, number);
    return null;
  }
  seen.add(mark.id);
  const ofThem = (sale: Sale) => partner === null || sale.partnerId === partner.id;
  const all = snapshot.sales.get(mark.id) ?? [];
  const sales = all.filter((sale) => sale.quantity.gt(0) && ofThem(sale));
  return { mark, product, amount, sales, path };
}

/**
 * Spreads what comes back over its shipments, the latest first.
 * @returns false after a fault: not so much of it is out
 */
function takeBack(returning: Returning, line: ReadLine): boolean {
  const { mark, product, amount, sales, path } = line;
  let open = amount;
  for (const sale of sales) {
    const part = sale.quantity.lt(open) ? sale.quantity : open;
    if (part.gt(0))
      returning.rows.returned.push({ mark: mark.id, shipmentId: sale.event, quantity: part });
    open = open.minus(part);
  }
  if (open.lte(0)) return true;
  const message = whyNot(returning, line, open);
  returning.faults.add('stock.short', path, message, mark.number ?? product.code);
  return false;
}

/**
 * What came back is held, unless good stock of the same lot would be held with it: in quarantine it
 * is held there, and the rest is not.
 */
function hold(
  { snapshot, rows, faults }: Returning,
  { mark, product, path }: ReadLine,
  inQuarantine: boolean
): void {
  if (inQuarantine && mark.kind === 'lot') {
    const message = `${nameOf(mark, product)}: what came back lies in quarantine, free for nothing; the rest of the lot stays as it is.`;
    faults.note(path, message, mark.number ?? undefined);
    return;
  }
  const others = mark.kind === 'lot' ? whereItLies(snapshot, mark) : null;
  if (others) {
    const message = `${nameOf(mark, product)} also lies at ${others}, so it is not held as a whole: look at what came back, and hold the lot if it must be.`;
    faults.note(path, message, mark.number ?? undefined);
    return;
  }
  if (mark.state === 'usable')
    rows.changes.push({ mark: mark.id, field: 'state', from: 'usable', to: 'held' });
}

/** Why so much cannot come back, in words. @param open what no shipment has out */
function whyNot(
  { snapshot, partner }: Returning,
  { mark, product, amount, sales }: ReadLine,
  open: Quantity
): string {
  const name = `${nameOf(mark, product)} of ${product.code}`;
  const all = snapshot.sales.get(mark.id) ?? [];
  const lies = whereItLies(snapshot, mark);
  const [last] = all;
  if (!last) {
    const where = lies ? `it lies at ${lies}` : sayGone(snapshot.gone.get(mark.id));
    return `${name} was never shipped: ${where}. Check the number.`;
  }
  const elsewhere = (sale: Sale) => sale.quantity.gt(0) && sale.partnerId !== partner?.id;
  const other = partner && sales.length === 0 ? all.find(elsewhere) : undefined;
  if (partner && other)
    return `${name} was shipped to ${other.partner}, not to ${partner.name}, on ${sayDay(other.day)}, ${other.document}. Name that customer, or check the number.`;
  if (mark.kind === 'serial') {
    const now = lies ? `; it lies at ${lies}` : '';
    return `${name} is back already: shipped to ${last.partner} on ${last.document}, ${sayDay(last.day)}, and returned since${now}.`;
  }
  const out = `${formatQuantity(amount.minus(open))} ${product.unit} are with ${partner?.name ?? 'customers'}`;
  return `${name}: ${out} and ${formatQuantity(amount)} come back. Take ${formatQuantity(open)} off, or check the lot.`;
}
