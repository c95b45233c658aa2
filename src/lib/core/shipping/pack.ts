import {
  MINUS_ONE,
  ONE,
  ZERO,
  formatQuantity,
  opposite,
  total,
  type Quantity
} from '../quantity/quantity.ts';
import { shown } from '../numbers/number.ts';
import { sayPacked } from './say-packed.ts';
import { readSscc } from '../gs1/sscc.ts';
import { sayDay } from '../calendar/say-day.ts';
import { decided, emptyRows, type Decision, type MarkRef } from '../ledger/booking.ts';
import { Availability } from '../ledger/draw.ts';
import { Faults } from '../faults/fault.ts';
import { findMark, findProduct, nameOf, productOf } from '../ledger/lookup.ts';
import { checkPromises } from '../ledger/promises.ts';
import type { Packing, Wants } from '../ledger/request.ts';
import type { KnownMark, KnownProduct, KnownUnit, Snapshot } from '../ledger/snapshot.ts';
import { sayPath, useMark } from '../ledger/use-mark.ts';
import { goingOf, insideOf } from './going-of.ts';
import { tellWishes, type Going } from './tell-wishes.ts';

export const packingWants = (request: Packing): Wants => ({
  products: request.lines.map((line) => line.product),
  places: [],
  partner: null,
  order: { kind: 'sales', number: request.document },
  marks: request.lines.map((line) => ({ product: line.product, marks: [line] })),
  draws: true,
  promises: true,
  packed: true,
  units: [...(request.unit ? [request.unit] : []), ...request.units]
});

/**
 * Decides putting goods into a carton, cartons onto a pallet, or taking them out again. Nothing
 * moves: it stays where it lies until it is shipped.
 * Without a unit a new one is made. What the customer wishes of the goods, and of one carton, is
 * answered as the plan says.
 * Faults: those of `useMark`, mark.unknown, mark.duplicate, mark.wrong-product, mark.reserved,
 * wish.unmet, stock.short, balance.open, order.closed.
 */
export function decidePacking(snapshot: Snapshot, request: Packing): Decision {
  const faults = new Faults(request.reasons, snapshot.granted);
  const rows = emptyRows();
  const { order } = snapshot;
  rows.orderId = order?.id ?? null;
  const out = request.kind === 'unpack';
  if (order?.closed)
    faults.add(
      'order.closed',
      'document',
      `Order ${order.number} is closed. Open it again, or pack for another.`,
      order.number
    );
  const unit = request.unit === undefined ? null : findUnit(request.unit, 'unit');
  if (request.unit === undefined && out)
    faults.add('mark.missing', 'unit', 'Say which carton or pallet it is taken out of.');
  if ((request.unit !== undefined && !unit) || faults.list.length > 0)
    return decided(rows, faults, snapshot);
  const kind = unit?.kind ?? request.make ?? 'carton';
  if (unit && order && unit.order !== null && unit.order !== order.number)
    faults.add(
      'mark.wrong-product',
      'unit',
      `${sayUnit(unit)} is packed for ${unit.order}, not for ${order.number}. Take another.`,
      unit.sscc
    );
  if (request.lines.length === 0 && request.units.length === 0 && unit)
    faults.add('mark.missing', 'lines', 'Scan what goes in.');
  const ref = unit?.id ?? -1;
  if (!unit) rows.newUnits.push({ kind, orderId: rows.orderId });

  const available = new Availability(snapshot);
  const usedSerials = new Map<MarkRef, string>();
  const inside = new Map<MarkRef, Quantity>(unit?.contents ?? []);
  const taken = new Map<MarkRef, string>();
  const wished = snapshot.wishes.size > 0;
  const going: Going[] = unit && wished ? insideOf(snapshot, unit) : [];
  const seen = new Set<number>();
  request.units.forEach((sscc, index) => packUnit(sscc, `units[${index}]`));
  request.lines.forEach((line, index) =>
    out ? takeOut(line, `lines[${index}]`) : putIn(line, `lines[${index}]`)
  );
  if (!out) checkPromises(snapshot, available, taken, request.document, faults);
  if (!out) tellWishes(going, snapshot.wishes, snapshot.day, faults);
  if (!out && kind === 'carton') checkDates();
  return decided(rows, faults, snapshot);

  function findUnit(text: string, path: string): KnownUnit | null {
    const sscc = readSscc(text);
    const found = sscc === null ? undefined : snapshot.units.get(sscc);
    if (!found)
      faults.add(
        'mark.unknown',
        path,
        sscc === null
          ? `${shown(text)} is no SSCC: eighteen digits, the last one their check digit. Scan it again.`
          : `There is no carton or pallet ${sscc}. Scan it again.`,
        shown(text)
      );
    else if (found.shipped)
      faults.add(
        'balance.open',
        path,
        `${sayUnit(found)} has left with ${found.shipped}. What is in it is booked by its return.`,
        found.sscc
      );
    else return found;
    return null;
  }

  function packUnit(text: string, path: string): void {
    const child = findUnit(text, path);
    if (!child) return;
    if (seen.has(child.id))
      return void faults.add(
        'mark.duplicate',
        path,
        `${sayUnit(child)} is named twice. Remove one of the two.`,
        child.sscc
      );
    seen.add(child.id);
    if (kind !== 'pallet' || child.kind !== 'carton')
      return void faults.add(
        'mark.wrong-product',
        path,
        `Only cartons stand on pallets: ${kind === 'pallet' ? `${sayUnit(child)} is a pallet` : 'what you pack into is a carton'}.`,
        child.sscc
      );
    if (out && child.pallet !== unit!.sscc)
      return void faults.add(
        'mark.unknown',
        path,
        `${sayUnit(child)} does not stand on pallet ${unit!.sscc}.`,
        child.sscc
      );
    if (!out && child.pallet !== null)
      return void faults.add(
        'mark.duplicate',
        path,
        `${sayUnit(child)} stands on pallet ${child.pallet} already. Take it off there first.`,
        child.sscc
      );
    if (order && child.order !== null && child.order !== order.number)
      return void faults.add(
        'mark.wrong-product',
        path,
        `${sayUnit(child)} is packed for ${child.order}, not for ${order.number}.`,
        child.sscc
      );
    rows.packings.push({ unit: ref, child: child.id, quantity: out ? MINUS_ONE : ONE });
  }

  function putIn(line: Packing['lines'][number], path: string): void {
    const product = findProduct(snapshot, line.product, `${path}.product`, faults);
    if (!product) return;
    if (kind === 'pallet')
      return void faults.add(
        'mark.wrong-product',
        path,
        'Goods go into cartons, and cartons onto pallets. Scan a carton, or make one.',
        product.code
      );
    if (order && !order.lines.has(product.id))
      return void faults.add(
        'mark.wrong-product',
        `${path}.product`,
        `${product.code} ${product.name} is not on order ${order.number}. Leave it out, or add it to the order.`,
        product.code
      );
    const used = useMark(
      snapshot,
      available,
      usedSerials,
      {
        product,
        checkpoint: 'ship',
        named: line,
        only: null,
        first: null,
        path,
        mustBeUsable: true
      },
      faults
    );
    if (!used?.mark) return;
    const packed = snapshot.packed.get(used.ref) ?? [];
    if (used.mark.kind === 'serial' && packed[0])
      return void faults.add(
        'mark.duplicate',
        path,
        sayPacked(`${nameOf(used.mark, product)} of ${product.code}`, packed[0].sscc),
        used.mark.number!
      );
    const loose = available.free(used.ref).minus(total(packed.map((one) => one.quantity)));
    if (loose.lt(0))
      return void faults.add(
        'stock.short',
        path,
        `${nameOf(used.mark, product)} of ${product.code}: ${formatQuantity(total(packed.map((one) => one.quantity)))} ${product.unit} are in cartons already (${packed.map((one) => one.sscc).join(', ')}), and ${formatQuantity(loose.plus(used.quantity))} are loose. Take less.`,
        used.mark.number ?? product.code
      );
    if (!taken.has(used.ref)) taken.set(used.ref, path);
    if (wished) going.push(goingOf(snapshot, product, used, path));
    inside.set(used.ref, (inside.get(used.ref) ?? ZERO).plus(used.quantity));
    rows.packings.push({ unit: ref, mark: used.ref, quantity: used.quantity });
    rows.answer.push(used.ref);
  }

  function takeOut(line: Packing['lines'][number], path: string): void {
    const product = findProduct(snapshot, line.product, `${path}.product`, faults);
    if (!product) return;
    const mark = findMark(
      snapshot,
      product,
      line.serial ? 'serial' : line.lot ? 'lot' : 'bulk',
      line.serial ?? line.lot ?? ''
    );
    const there = mark && inside.get(mark.id);
    if (!mark || !there || there.isZero())
      return void faults.add(
        'mark.unknown',
        path,
        `${shown(line.serial ?? line.lot ?? product.code)} is not in ${sayUnit(unit!)}.`,
        shown(line.serial ?? line.lot ?? product.code)
      );
    const amount =
      line.quantity === undefined ? there : useAmount(line.quantity, there, mark, product, path);
    if (!amount) return;
    inside.set(mark.id, there.minus(amount));
    rows.packings.push({ unit: ref, mark: mark.id, quantity: opposite(amount) });
    rows.answer.push(mark.id);
  }

  function useAmount(
    text: string,
    there: Quantity,
    mark: KnownMark,
    product: KnownProduct,
    path: string
  ): Quantity | null {
    const amount = /^\d+(\.\d+)?$/.test(text.trim()) ? there.times(0).plus(text.trim()) : null;
    if (amount && amount.gt(0) && amount.lte(there)) return amount;
    faults.add(
      'quantity.mismatch',
      path,
      `${formatQuantity(there)} ${product.unit} of ${nameOf(mark, product)} are in ${sayUnit(unit!)}; ${shown(text)} cannot be taken out.`,
      mark.number ?? product.code
    );
    return null;
  }

  /** One date in a carton, where the customer wishes it. */
  function checkDates(): void {
    const dates = new Map<number, Map<string, KnownMark>>();
    for (const [id, amount] of inside) {
      const mark = snapshot.marksById.get(id);
      const expires =
        mark?.expires ?? (mark?.lotId ? snapshot.marksById.get(mark.lotId)?.expires : null) ?? null;
      const wished = mark && snapshot.wishes.get(mark.productId)?.oneDate;
      if (!wished || amount.isZero() || expires === null) continue;
      dates.set(mark.productId, (dates.get(mark.productId) ?? new Map()).set(expires, mark));
    }
    for (const [productId, byDate] of dates) {
      if (byDate.size < 2) continue;
      const product = productOf(snapshot, productId);
      const path = taken.get([...byDate.values()].at(-1)!.id) ?? [...taken.values()][0] ?? 'lines';
      const dates = [...byDate.keys()].sort().map(sayDay).join(' and ');
      const message =
        `This customer wants one expiry date of ${product.code} in a carton, and this one would ` +
        `hold ${dates}. Begin another carton.`;
      faults.answer(product.plan, 'dates mixed', path, message, product.code);
    }
  }
}

/** `carton 395200…`. */
export const sayUnit = (unit: Pick<KnownUnit, 'kind' | 'sscc'>): string =>
  `${unit.kind === 'carton' ? 'Carton' : 'Pallet'} ${unit.sscc}`;

/**
 * Goods of a shipment that stand packed: what the units named hold, and whether loose goods named
 * beside them are loose indeed.
 * @returns what is in the units, each as a line to be shipped
 */
export class PackedGoods {
  readonly unitIds: number[] = [];
  private readonly shipping = new Set<string>();

  constructor(
    private readonly snapshot: Snapshot,
    named: readonly string[],
    private readonly faults: Faults
  ) {
    named.forEach((text, index) => this.take(text, `units[${index}]`));
    for (const sscc of this.shipping) {
      const unit = snapshot.units.get(sscc)!;
      if (unit.pallet !== null && !this.shipping.has(unit.pallet))
        faults.add(
          'balance.open',
          'units',
          `${sayUnit(unit)} stands on pallet ${unit.pallet}. Ship the pallet, or take the carton off it first.`,
          sscc
        );
    }
  }

  private take(text: string, path: string): void {
    const sscc = readSscc(text);
    const unit = sscc === null ? undefined : this.snapshot.units.get(sscc);
    if (!unit)
      return this.faults.add(
        'mark.unknown',
        path,
        sscc === null
          ? `${shown(text)} is no SSCC: eighteen digits, the last one their check digit. Scan it again.`
          : `There is no carton or pallet ${sscc}. Scan it again.`,
        shown(text)
      );
    if (unit.shipped)
      return this.faults.add(
        'balance.open',
        path,
        `${sayUnit(unit)} has left already, with ${unit.shipped}.`,
        unit.sscc
      );
    if (this.shipping.has(unit.sscc)) return;
    const { order } = this.snapshot;
    if (order && unit.order !== null && unit.order !== order.number)
      return this.faults.add(
        'mark.wrong-product',
        path,
        `${sayUnit(unit)} is packed for ${unit.order}, not for ${order.number}.`,
        unit.sscc
      );
    if (unit.kind === 'carton' && [...unit.contents.values()].every((amount) => amount.isZero()))
      return this.faults.add(
        'mark.missing',
        path,
        `${sayUnit(unit)} is empty. Pack it, or leave it out.`,
        unit.sscc
      );
    if (unit.kind === 'pallet' && unit.cartons.length === 0)
      return this.faults.add(
        'mark.missing',
        path,
        `${sayUnit(unit)} has no carton on it.`,
        unit.sscc
      );
    this.shipping.add(unit.sscc);
    this.unitIds.push(unit.id);
    for (const child of unit.cartons) this.take(child, path);
  }

  /** What the units of the shipment hold. */
  contents(): { mark: number; quantity: Quantity; sscc: string }[] {
    return [...this.shipping].flatMap((sscc) =>
      [...this.snapshot.units.get(sscc)!.contents]
        .filter(([, amount]) => amount.gt(0))
        .map(([mark, quantity]) => ({ mark, quantity, sscc }))
    );
  }

  /**
   * Sees that what stays packed in other cartons is not shipped loose. @param used marks with the
   * path they were named at
   */
  checkLoose(available: Availability, used: ReadonlyMap<MarkRef, string>): void {
    for (const [ref, path] of used) {
      const staying = (this.snapshot.packed.get(ref) ?? []).filter(
        (one) => !this.shipping.has(one.sscc)
      );
      if (
        staying.length === 0 ||
        available.amount(ref).gte(total(staying.map((one) => one.quantity)))
      )
        continue;
      const mark = this.snapshot.marksById.get(ref)!;
      const product = productOf(this.snapshot, mark.productId);
      this.faults.add(
        'balance.open',
        path,
        `${nameOf(mark, product)} of ${product.code} is packed in carton ${staying.map((one) => one.sscc).join(', ')}, which stays here (${sayPath(path) || 'this shipment'}). Ship the carton, or take it out first.`,
        mark.number ?? product.code
      );
    }
  }
}
