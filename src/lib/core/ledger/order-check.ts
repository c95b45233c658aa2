import { formatQuantity, type Quantity } from '../quantity/quantity.ts';
import type { Faults } from '../faults/fault.ts';
import { codeKey, type KnownProduct, type Snapshot } from './snapshot.ts';

/** What a booking adds to each product of its order, with the first line it stands on. */
export interface Booked {
  product: KnownProduct;
  quantity: Quantity;
  path: string;
}

/**
 * Checks a booking against the order its document names: open, of that partner, only what was
 * ordered, no more than is left and the line's tolerance lets in.
 * A booking whose document is no order passes.
 * @param beyond what to do with more than ordered: builds may make more, receipts and shipments may
 * not
 */
export function checkOrder(
  snapshot: Snapshot,
  booked: readonly Booked[],
  partner: string | null,
  beyond: 'refuse' | 'note',
  faults: Faults
): void {
  const { order } = snapshot;
  if (!order) return;
  if (order.closed) {
    faults.add(
      'order.closed',
      'document',
      `Order ${order.number} is closed. Open it again, or book under another document.`,
      order.number
    );
    return;
  }
  if (partner !== null && order.partner !== null && codeKey(order.partner) !== codeKey(partner)) {
    faults.add(
      'partner.unknown',
      'document',
      `Order ${order.number} is with ${order.partner}, not with ${partner}. Name that partner, or another document.`,
      order.number
    );
  }
  const sums = new Map<number, Booked>();
  for (const row of booked) {
    const before = sums.get(row.product.id);
    sums.set(
      row.product.id,
      before ? { ...before, quantity: before.quantity.plus(row.quantity) } : row
    );
  }
  for (const [productId, { product, quantity, path }] of sums) {
    const line = order.lines.get(productId);
    const { bill } = order;
    if (
      !line &&
      bill?.bill.coProducts.some((co) => bill.ids.get(codeKey(co.product)) === productId)
    )
      continue;
    if (!line) {
      faults.add(
        'mark.wrong-product',
        path,
        `${product.code} ${product.name} is not on order ${order.number}. Take it off this sheet, or add it to the order.`,
        product.code
      );
      continue;
    }
    const left = line.ordered.minus(line.done);
    if (quantity.lte(left)) continue;
    const words = `${formatQuantity(line.ordered)} ${product.unit} of ${product.code} were ordered and ${formatQuantity(line.done)} are booked, so ${formatQuantity(left.lt(0) ? left.times(0) : left)} are left; this sheet has ${formatQuantity(quantity)}`;
    if (beyond === 'refuse' && line.done.plus(quantity).lte(line.most))
      faults.note(
        path,
        `${words}. The tolerance lets ${formatQuantity(line.most.minus(line.ordered))} more in.`,
        product.code
      );
    else if (beyond === 'refuse')
      faults.add(
        'quantity.mismatch',
        path,
        `${words}. Take ${formatQuantity(quantity.minus(left))} off, or change the order.`,
        product.code
      );
    else faults.note(path, `${words}.`, product.code);
  }
}
