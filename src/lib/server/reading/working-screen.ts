import { error } from '@sveltejs/kit';
import { mayDo, type Right } from '../../core/access/rights.ts';
import type { Actor } from '../access/actor.ts';
import { readProduct } from '../catalogue/products.ts';
import { db, type Db } from '../db/client.ts';
import { readDraft } from '../drafts.ts';
import { listPlaces } from './catalogue.ts';
import { readAvailable } from './on-hand.ts';
import { listOrders, readOrder, type OrderRecord } from './orders.ts';

type Kind = OrderRecord['kind'];
const SCREENS: Record<Kind, { base: string; right: Right; verb: string }> = {
  purchase: { base: '/receive', right: 'book.receive', verb: 'receive' },
  work: { base: '/build', right: 'book.build', verb: 'build' },
  sales: { base: '/ship', right: 'book.ship', verb: 'ship' }
};

/** Where these products, or failing that any, were last received or built: the place a new sheet begins with. Shipments take from wherever it lies. */
async function usualPlace(sql: Db, kind: Kind, products: readonly string[]): Promise<string | null> {
  if (kind === 'sales') return null;
  const [row] = await sql<{ code: string }[]>`
    SELECT c.code FROM movement v JOIN event e ON e.id = v.event_id JOIN mark m ON m.id = v.mark_id JOIN product p ON p.id = m.product_id JOIN place c ON c.id = v.place_id
    WHERE e.kind = ${SCREENS[kind].verb} AND v.quantity > 0 AND p.code = ANY(${products as string[]}) ORDER BY v.id DESC LIMIT 1`;
  if (row) return row.code;
  const [latest] = await sql<{ code: string }[]>`
    SELECT c.code FROM (SELECT id FROM event WHERE kind = ${SCREENS[kind].verb} ORDER BY id DESC LIMIT 1) e
    JOIN movement v ON v.event_id = e.id JOIN place c ON c.id = v.place_id WHERE v.quantity > 0 LIMIT 1`;
  return latest?.code ?? null;
}

/** The list of a working screen. */
export async function loadOrderList(kind: Kind, actor: Actor) {
  const [orders, done] = await Promise.all([listOrders(db(), kind, 'open'), listOrders(db(), kind, 'done', 12)]);
  return { orders, done, mayBook: mayDo(actor.roles, SCREENS[kind].right), mayOrder: mayDo(actor.roles, 'edit.catalogue') || (mayDo(actor.roles, 'edit.orders') && mayDo(actor.roles, SCREENS[kind].right)) };
}

/** The sheet of one order: lines, what is on hand for them, the draft, where to go next. A work order also has its bill. */
export async function loadSheet(kind: Kind, number: string, actor: Actor) {
  const order = await readOrder(db(), kind, number);
  if (!order) error(404, `There is no ${kind} order ${number}.`);
  const product = kind === 'work' ? await readProduct(db(), order.lines[0]!.product) : null;
  const codes = product ? product.components.map((component) => component.product) : order.lines.map((line) => line.product);
  const [places, available, draft, open] = await Promise.all([
    listPlaces(db()), readAvailable(db(), codes), readDraft(db(), actor.personId, `${SCREENS[kind].verb} ${order.number}`), listOrders(db(), kind, 'open', 50)
  ]);
  const following = open.find((other) => other.number !== order.number);
  return {
    order: { ...order, place: order.place ?? (await usualPlace(db(), kind, order.lines.map((line) => line.product))) },
    places, available, draft, components: product?.components ?? [],
    next: following ? `${SCREENS[kind].base}/${encodeURIComponent(following.number)}` : null
  };
}
