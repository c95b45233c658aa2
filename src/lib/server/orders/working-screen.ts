import { error } from '@sveltejs/kit';
import { mayDo, type Right } from '../../core/people/rights.ts';
import type { Actor } from '../kernel/actor.ts';
import { componentsOf, readBill } from '../catalogue/bills.ts';
import { readWishes } from '../catalogue/wishes.ts';
import { db, type Db } from '../kernel/db/client.ts';
import { readDraft } from '../ledger/drafts.ts';
import { today } from '../kernel/clock.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { listPlaces } from '../catalogue/read-catalogue.ts';
import { readAvailable } from '../stock/on-hand.ts';
import { listOrders, readOpenOrders, readOrder, type OrderRecord } from './read-orders.ts';

type Kind = OrderRecord['kind'];
const SCREENS: Record<Kind, { base: string; right: Right; verb: string }> = {
  purchase: { base: '/receive', right: 'book.receive', verb: 'receive' },
  work: { base: '/build', right: 'book.build', verb: 'build' },
  sales: { base: '/ship', right: 'book.ship', verb: 'ship' }
};

/**
 * Where these products, or failing that any, were last received or built: the place a new sheet
 * begins with. Shipments take from wherever it lies.
 */
async function usualPlace(
  sql: Db,
  kind: Kind,
  products: readonly string[]
): Promise<string | null> {
  if (kind === 'sales') return null;
  const [row] = await sql<{ code: string }[]>`
    SELECT c.code
    FROM movement v
      JOIN event e ON e.id = v.event_id
      JOIN mark m ON m.id = v.mark_id
      JOIN product p ON p.id = m.product_id
      JOIN place c ON c.id = v.place_id
    WHERE e.kind = ${SCREENS[kind].verb}
      AND v.quantity > 0
      AND p.code = ANY(${products as string[]})
    ORDER BY v.id DESC
    LIMIT 1
  `;
  if (row) return row.code;
  const [latest] = await sql<{ code: string }[]>`
    SELECT c.code
    FROM (SELECT id FROM event WHERE kind = ${SCREENS[kind].verb} ORDER BY id DESC LIMIT 1) e
      JOIN movement v ON v.event_id = e.id
      JOIN place c ON c.id = v.place_id
    WHERE v.quantity > 0
    LIMIT 1
  `;
  return latest?.code ?? null;
}

/** What was scrapped under a work order. */
async function readScrapped(
  sql: Db,
  number: string
): Promise<
  {
    product: string;
    unit: string;
    number: string | null;
    quantity: string;
    reason: string;
    event: number;
  }[]
> {
  const rows = await sql<
    {
      product: string;
      unit: string;
      number: string | null;
      quantity: string;
      reason: string;
      event: number;
    }[]
  >`
    SELECT p.code AS product, p.unit, m.number, -sum(v.quantity) AS quantity, e.reason,
      e.id AS event
    FROM event e
      JOIN trade_order o ON o.id = e.order_id
      JOIN movement v ON v.event_id = e.id
      JOIN mark m ON m.id = v.mark_id
      JOIN product p ON p.id = m.product_id
    WHERE e.kind = 'scrap' AND o.kind = 'work' AND o.number = ${number}
    GROUP BY e.id, p.code, p.unit, m.number, e.reason
    ORDER BY e.id DESC
    LIMIT 100
  `;
  return rows.map((row) => ({ ...row, quantity: trimZeros(row.quantity) }));
}

/** So many orders stand beside a sheet, the most urgent. */
const LISTED = 200;

/** The list of a working screen. */
export async function loadOrderList(kind: Kind, actor: Actor) {
  const [open, done] = await Promise.all([
    readOpenOrders(db(), kind, today(), LISTED),
    listOrders(db(), kind, 'done', 12)
  ]);
  return {
    orders: open.rows,
    total: open.total,
    done,
    mayBook: mayDo(actor.roles, SCREENS[kind].right),
    mayOrder:
      mayDo(actor.roles, 'edit.catalogue') ||
      (mayDo(actor.roles, 'edit.orders') && mayDo(actor.roles, SCREENS[kind].right))
  };
}

/**
 * The sheet of one order: lines, what is on hand for them, the draft, where to go next. A work
 * order also has its bill.
 */
export async function loadSheet(kind: Kind, number: string, actor: Actor) {
  const order = await readOrder(db(), kind, number);
  if (!order) error(404, `There is no ${kind} order ${number}.`);
  const bill =
    kind === 'work'
      ? await readBill(
          db(),
          order.lines[0]!.product,
          order.bill ? { version: order.bill.version } : { day: today() }
        )
      : null;
  const components = await componentsOf(db(), bill);
  const codes =
    kind === 'work'
      ? components.flatMap((component) => [component.product, ...component.alternates])
      : order.lines.map((line) => line.product);
  const [places, { marks: available, usable, onHand }, draft, open, wishes] = await Promise.all([
    listPlaces(db()),
    readAvailable(db(), codes, today()),
    readDraft(db(), actor.personId, `${SCREENS[kind].verb} ${order.number}`),
    listOrders(db(), kind, 'open', 50),
    kind === 'sales' ? readWishes(db(), order.partner, codes) : []
  ]);
  const following = open.find((other) => other.number !== order.number);
  return {
    order: {
      ...order,
      place:
        order.place ??
        (await usualPlace(
          db(),
          kind,
          order.lines.map((line) => line.product)
        ))
    },
    places,
    available,
    usable,
    onHand,
    wishes: Object.fromEntries(wishes),
    draft,
    components,
    coProducts: bill?.coProducts ?? [],
    batch: bill?.batch ?? null,
    scrapped: kind === 'work' ? await readScrapped(db(), order.number) : [],
    next: following ? `${SCREENS[kind].base}/${encodeURIComponent(following.number)}` : null
  };
}
