import { Births } from '../ledger/birth.ts';
import { decided, emptyRows, type Decision, type MarkRef } from '../ledger/booking.ts';
import { Availability } from '../ledger/draw.ts';
import { Faults } from '../faults/fault.ts';
import { LateNumbers } from '../ledger/late-numbers.ts';
import { findPartner, findPlace, findProduct, nameOf, productOf } from '../ledger/lookup.ts';
import { checkOrder, type Booked } from '../ledger/order-check.ts';
import { ZERO, opposite, total, type Quantity } from '../quantity/quantity.ts';
import { PackedGoods } from './pack.ts';
import { checkPromises } from '../ledger/promises.ts';
import type { Shipment, Wants } from '../ledger/request.ts';
import type { KnownProduct, Snapshot } from '../ledger/snapshot.ts';
import { lineQuantity } from '../ledger/line-quantity.ts';
import { useMark } from '../ledger/use-mark.ts';
import { goingOf } from './going-of.ts';
import { tellWishes, type Going } from './tell-wishes.ts';

export const shipmentWants = (request: Shipment): Wants => ({
  products: request.lines.map((line) => line.product),
  places: request.lines.flatMap((line) => line.place ?? []),
  partner: request.customer,
  order: { kind: 'sales', number: request.document },
  marks: request.lines.map((line) => ({ product: line.product, marks: line.marks ?? [] })),
  draws: true,
  promises: true,
  packed: true,
  units: request.units ?? [],
  specsFor: request.customer
});

/**
 * Decides a shipment: which marks leave from where, to whom. A line names its marks, or only a
 * quantity where the product has no numbers. A serial that the plan asks for only here is given to
 * one unit of the unnumbered stock.
 * What does not conform to the customer's spec, and what was promised to another order, is refused;
 * the second goes on with a reason. What the customer wishes is answered as the plan says.
 * Cartons and pallets leave with all that is in them; what stays packed does not leave loose.
 * Faults: those of `useMark`, mark.off-spec, wish.unmet, balance.open, mark.reserved, order.closed,
 * product.unknown, place.unknown, partner.unknown.
 */
export function decideShipment(snapshot: Snapshot, request: Shipment): Decision {
  const faults = new Faults(request.reasons, snapshot.granted);
  const rows = emptyRows();
  const partner = findPartner(snapshot, request.customer, 'customer', 'customer', faults);
  rows.partnerId = partner?.id ?? null;
  rows.orderId = snapshot.order?.id ?? null;
  const available = new Availability(snapshot);
  const late = new LateNumbers(snapshot, rows, new Births(snapshot, rows, faults), available);
  const usedSerials = new Map<MarkRef, string>();
  const booked: Booked[] = [];
  const wished = snapshot.wishes.size > 0;
  const going: Going[] = [];
  const taken = new Map<MarkRef, string>(),
    loose = new Map<MarkRef, string>();

  request.lines.forEach((line, index) => {
    const path = `lines[${index}]`;
    const product = findProduct(snapshot, line.product, `${path}.product`, faults);
    const only =
      line.place === undefined ? null : findPlace(snapshot, line.place, `${path}.place`, faults);
    if (!product) return;
    const given = line.marks ?? [];
    const named =
      given.length > 0
        ? given
        : product.plan.identity === 'none' || product.plan.asks.ship !== 'always'
          ? [{ quantity: line.quantity }]
          : [];
    if (named.length === 0) {
      faults.add(
        'mark.missing',
        `${path}.marks`,
        `${product.code} ${product.name} leaves only by ${product.marking === 'lot' ? 'lot' : 'serial'}. Scan what is going.`,
        product.code
      );
      return;
    }
    const used = named.flatMap((mark, at) => {
      const markPath = given.length > 0 ? `${path}.marks[${at}]` : path;
      const quantity =
        mark.quantity ?? (named.length === 1 && !mark.serial ? line.quantity : undefined);
      const used = useMark(
        snapshot,
        available,
        usedSerials,
        {
          product,
          checkpoint: 'ship',
          named: { ...mark, quantity },
          only,
          first: null,
          path: markPath,
          mustBeUsable: true,
          late
        },
        faults
      );
      if (!used || !conforms(product, used.ref, markPath)) return [];
      if (wished) going.push(goingOf(snapshot, product, used, markPath));
      if (snapshot.promised.size > 0 && !taken.has(used.ref)) taken.set(used.ref, markPath);
      if (snapshot.packed.size > 0 && !loose.has(used.ref)) loose.set(used.ref, markPath);
      return used;
    });
    for (const { ref, takings } of used) {
      for (const taking of takings)
        rows.movements.push({
          mark: ref,
          placeId: taking.place.id,
          quantity: opposite(taking.quantity)
        });
      rows.answer.push(ref);
    }
    const sum = total(used.map((row) => row.quantity));
    if (line.quantity !== undefined && given.length > 0 && used.length === named.length) {
      const asked = lineQuantity(product, line.quantity, `${path}.quantity`, faults);
      if (asked && !asked.eq(sum))
        faults.add(
          'quantity.mismatch',
          `${path}.quantity`,
          `${product.code} leaves with ${asked.toFixed()} ${product.unit} but ${sum.toFixed()} are named. Make the two the same.`,
          product.code
        );
    }
    if (used.length > 0) booked.push({ product, quantity: sum, path });
  });

  // What stands in cartons leaves with them.
  const packed = new PackedGoods(snapshot, request.units ?? [], faults);
  const inUnits = new Map<KnownProduct, Quantity>();
  for (const { mark: id, quantity, sscc } of packed.contents()) {
    const path = `units[${Math.max(0, (request.units ?? []).indexOf(sscc))}]`;
    const mark = snapshot.marksById.get(id)!,
      product = productOf(snapshot, mark.productId);
    const named = {
      ...(mark.kind === 'serial'
        ? { serial: mark.number! }
        : mark.kind === 'lot'
          ? { lot: mark.number! }
          : {}),
      quantity: quantity.toFixed()
    };
    const used = useMark(
      snapshot,
      available,
      usedSerials,
      { product, checkpoint: 'ship', named, only: null, first: null, path, mustBeUsable: true },
      faults
    );
    if (!used || !conforms(product, used.ref, path)) continue;
    if (wished) going.push(goingOf(snapshot, product, used, path));
    if (snapshot.promised.size > 0 && !taken.has(used.ref)) taken.set(used.ref, path);
    for (const taking of used.takings)
      rows.movements.push({
        mark: used.ref,
        placeId: taking.place.id,
        quantity: opposite(taking.quantity)
      });
    rows.answer.push(used.ref);
    inUnits.set(product, (inUnits.get(product) ?? ZERO).plus(quantity));
  }
  for (const [product, quantity] of inUnits) booked.push({ product, quantity, path: 'units' });
  rows.shippedUnits = packed.unitIds;
  if (snapshot.packed.size > 0) packed.checkLoose(available, loose);

  late.finish();
  tellWishes(going, snapshot.wishes, snapshot.day, faults);
  checkPromises(snapshot, available, taken, request.document, faults);
  checkOrder(snapshot, booked, partner?.code ?? null, 'refuse', faults);
  return decided(rows, faults, snapshot);

  /** Whether a mark meets this customer's spec; where not, the plan answers. */
  function conforms(product: KnownProduct, ref: MarkRef, path: string): boolean {
    const why = snapshot.offSpec.get(ref);
    const mark = why === undefined ? undefined : snapshot.marksById.get(ref);
    return (
      !mark ||
      faults.answer(
        product.plan,
        'off limits',
        path,
        `${nameOf(mark, product)} of ${product.code} does not conform: ${why}. Take another.`,
        mark.number!
      )
    );
  }
}
