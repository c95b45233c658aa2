import { sayDay } from '../calendar/say-day.ts';
import { formatQuantity, type Quantity } from '../quantity/quantity.ts';
import { decided, emptyRows, type Decision } from '../ledger/booking.ts';
import { Faults } from '../faults/fault.ts';
import { markNamed } from '../ledger/identity.ts';
import { lineQuantity, serialQuantity } from '../ledger/line-quantity.ts';
import { findMark, findPlace, findProduct, nameOf, whereItLies } from '../ledger/lookup.ts';
import type { GoodsReturn, Wants } from '../ledger/request.ts';
import type { KnownMark, KnownProduct, Sale, Snapshot } from '../ledger/snapshot.ts';
import { sayGone } from '../ledger/use-mark.ts';

export const returnWants = (request: GoodsReturn): Wants => ({
  products: request.lines.map((line) => line.product),
  places: [request.place],
  partner: request.customer ?? null,
  order: null,
  marks: request.lines.map((line) => ({ product: line.product, marks: [line] })),
  draws: true,
  sales: true
});

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
  const place = findPlace(snapshot, request.place, 'place', faults);
  const partner =
    request.customer === undefined
      ? null
      : (snapshot.partners.get(request.customer.trim().toUpperCase()) ?? null);
  if (request.customer !== undefined && !partner)
    faults.add(
      'partner.unknown',
      'customer',
      `There is no partner ${request.customer}. Check the code, or leave it out: the sale names its customer.`,
      request.customer
    );
  const seen = new Map<number, Quantity>();
  const customers = new Map<string, number>();
  request.lines.forEach((line, index) => {
    const path = `lines[${index}]`;
    const product = findProduct(snapshot, line.product, `${path}.product`, faults);
    if (!product) return;
    const identity = markNamed(product, line, path, faults);
    if (!identity) return;
    const mark = findMark(snapshot, product, identity.kind, identity.number);
    if (!mark)
      return void faults.add(
        'mark.unknown',
        path,
        `There is no ${identity.kind} ${identity.number} of ${product.code} ${product.name}, so it was never shipped from here. Check the number.`,
        identity.number
      );
    const amount =
      mark.kind === 'serial'
        ? serialQuantity(product, identity.number, line.quantity, path, faults)
        : lineQuantity(product, line.quantity ?? '', path, faults);
    if (!amount) return;
    if (mark.kind === 'serial' && seen.has(mark.id))
      return void faults.add(
        'mark.duplicate',
        path,
        `${nameOf(mark, product)} is named twice. Remove one of the two.`,
        identity.number
      );
    const before = seen.get(mark.id);
    seen.set(mark.id, before ? before.plus(amount) : amount);
    const sales = (snapshot.sales.get(mark.id) ?? []).filter(
      (sale) => sale.quantity.gt(0) && (partner === null || sale.partnerId === partner.id)
    );
    if (!place || !takeBack(mark, product, amount, before, sales, path)) return;
    for (const sale of sales)
      if (sale.partner !== null) customers.set(sale.partner, sale.partnerId!);
    rows.movements.push({ mark: mark.id, placeId: place.id, quantity: amount });
    rows.answer.push(mark.id);
    const others = mark.kind === 'lot' ? whereItLies(snapshot, mark) : null;
    if (others)
      faults.note(
        path,
        `${nameOf(mark, product)} also lies at ${others}, so it is not held as a whole: look at what came back, and hold the lot if it must be.`,
        identity.number
      );
    else if (mark.state === 'usable')
      rows.changes.push({ mark: mark.id, field: 'state', from: 'usable', to: 'held' });
  });
  rows.partnerId = partner?.id ?? [...customers.values()][0] ?? null;
  if (partner === null && customers.size > 1)
    faults.add(
      'partner.unknown',
      'customer',
      `These were shipped to ${[...customers.keys()].join(' and ')}. Book a return for each.`
    );
  return decided(rows, faults, snapshot);

  /** Spreads what comes back over its shipments, the latest first. */
  function takeBack(
    mark: KnownMark,
    product: KnownProduct,
    amount: Quantity,
    before: Quantity | undefined,
    sales: readonly Sale[],
    path: string
  ): boolean {
    let skip = before ?? amount.times(0),
      open = amount;
    for (const sale of sales) {
      const here = sale.quantity.lt(skip) ? sale.quantity : skip;
      skip = skip.minus(here);
      const part = sale.quantity.minus(here).lt(open) ? sale.quantity.minus(here) : open;
      if (part.gt(0)) rows.returned.push({ mark: mark.id, shipmentId: sale.event, quantity: part });
      open = open.minus(part);
    }
    if (open.lte(0)) return true;
    faults.add(
      'stock.short',
      path,
      whyNot(mark, product, amount, open, sales),
      mark.number ?? product.code
    );
    return false;
  }

  function whyNot(
    mark: KnownMark,
    product: KnownProduct,
    amount: Quantity,
    open: Quantity,
    sales: readonly Sale[]
  ): string {
    const name = `${nameOf(mark, product)} of ${product.code}`;
    const all = snapshot.sales.get(mark.id) ?? [];
    if (all.length === 0) {
      const lies = whereItLies(snapshot, mark);
      return `${name} was never shipped: ${lies ? `it lies at ${lies}` : sayGone(snapshot.gone.get(mark.id))}. Check the number.`;
    }
    const others = partner
      ? all.filter((sale) => sale.quantity.gt(0) && sale.partnerId !== partner.id)
      : [];
    if (sales.length === 0 && others[0])
      return `${name} was shipped to ${others[0].partner}, not to ${partner!.name}, on ${sayDay(others[0].day)}, ${others[0].document}. Name that customer, or check the number.`;
    const last = all[0]!;
    if (mark.kind === 'serial')
      return `${name} is back already: shipped to ${last.partner} on ${last.document}, ${sayDay(last.day)}, and returned since${whereItLies(snapshot, mark) ? `; it lies at ${whereItLies(snapshot, mark)}` : ''}.`;
    return `${name}: ${formatQuantity(amount.minus(open))} ${product.unit} are with ${partner?.name ?? 'customers'} and ${formatQuantity(amount)} come back. Take ${formatQuantity(open)} off, or check the lot.`;
  }
}
