import { receiptWants } from '../../core/receiving/receive.ts';
import type { Receipt } from '../../core/ledger/request.ts';
import type { KnownOrder, Snapshot } from '../../core/ledger/snapshot.ts';
import { listPlaces } from '../catalogue/read-catalogue.ts';
import type { Sql } from '../kernel/db/client.ts';
import { readKnown } from '../ledger/read-known.ts';
import { readOrder } from '../orders/read-orders.ts';

/**
 * What the decision of a receipt against an order knows before any number of it is named, for a
 * device that goes on without a line. Prices stay here: not whoever receives may see them.
 * @returns null where there is no such purchase order
 */
export async function knownForReceipt(sql: Sql, number: string): Promise<Snapshot | null> {
  const order = await readOrder(sql, 'purchase', number);
  if (!order) return null;
  const places = await listPlaces(sql);
  const products = order.lines.map((line) => line.product);
  const receipt = {
    document: order.number,
    supplier: order.partner ?? '',
    lines: products.map((product) => ({ product, place: '', quantity: '1' }))
  } as unknown as Receipt;
  const wants = { ...receiptWants(receipt), places: places.map((place) => place.code) };
  const known = await readKnown(sql, wants);
  return { ...known, order: known.order && withoutPrices(known.order) };
}

const withoutPrices = (order: KnownOrder): KnownOrder => ({
  ...order,
  lines: new Map([...order.lines].map(([id, { price: _, ...line }]) => [id, line]))
});
