import type { MarkKind, Marking } from '../../core/ledger/snapshot.ts';
import { numberKey } from '../../core/numbers/number.ts';
import { quantity, formatQuantity } from '../../core/quantity/quantity.ts';
import type { Db } from '../db/client.ts';
import { trimZeros } from './mark-record.ts';

export interface OrderLineRecord {
  line: number; product: string; name: string; unit: string; decimals: number; marking: Marking; shelfLifeDays: number | null; gtin: string | null;
  /** Whether its lots and its serials have a numbering scheme. */
  numbersLots: boolean; numbersSerials: boolean;
  quantity: string; done: string; left: string;
}
export interface OrderRecord {
  kind: 'purchase' | 'work' | 'sales'; number: string; partner: string | null; partnerName: string | null; place: string | null;
  placed: string; due: string; note: string; closed: boolean;
  /** `waiting` nothing booked yet, `part` some of it, `complete` all of it, `closed` ended by hand. */
  state: 'waiting' | 'part' | 'complete' | 'closed';
  lines: OrderLineRecord[];
  events: { id: number; kind: string; at: string; marks: number; kinds: MarkKind[] }[];
}
export interface OrderSummary {
  kind: OrderRecord['kind']; number: string; partner: string | null; partnerName: string | null; due: string; state: OrderRecord['state'];
  lines: number; products: string;
  /** Sum over lines of what is left, counted in marks to give where serials are asked and in units otherwise; and the part done, 0…1. */
  left: string; unit: string; part: number;
}

/** One order with its progress; what is booked counts towards its lines in their order. */
export async function readOrder(db: Db, kind: string, number: string): Promise<OrderRecord | null> {
  const [order] = await db<(Omit<OrderRecord, 'lines' | 'events' | 'state' | 'closed'> & { id: number; closed: boolean })[]>`
    SELECT o.id, o.kind, o.number, t.code AS partner, t.name AS "partnerName", p.code AS place, o.placed_on AS placed, o.due_on AS due, o.note, o.closed_at IS NOT NULL AS closed
    FROM trade_order o LEFT JOIN partner t ON t.id = o.partner_id LEFT JOIN place p ON p.id = o.place_id
    WHERE o.kind = ${kind} AND upper(o.number) = ${numberKey(number)}`;
  if (!order) return null;
  const rows = await db<(Omit<OrderLineRecord, 'done' | 'left'> & { product_id: number })[]>`
    SELECT l.line, l.product_id, p.code AS product, p.name, p.unit, p.decimals, p.marking, p.shelf_life_days AS "shelfLifeDays", p.gtin, p.lot_scheme_id IS NOT NULL AS "numbersLots", p.serial_scheme_id IS NOT NULL AS "numbersSerials", l.quantity
    FROM order_line l JOIN product p ON p.id = l.product_id WHERE l.order_id = ${order.id} ORDER BY l.line`;
  const booked = new Map((await db<{ product_id: number; done: string }[]>`
    SELECT m.product_id, sum(CASE WHEN ${kind} = 'sales' THEN -v.quantity ELSE v.quantity END) AS done
    FROM event e JOIN movement v ON v.event_id = e.id JOIN mark m ON m.id = v.mark_id
    WHERE e.order_id = ${order.id} AND (${kind} <> 'work' OR v.quantity > 0) GROUP BY m.product_id`).map((row) => [row.product_id, quantity(row.done)]));
  const lines = rows.map(({ product_id, ...row }, index) => {
    const rest = booked.get(product_id) ?? quantity(0);
    const ordered = quantity(row.quantity);
    // The last line of a product also shows what was booked beyond the order.
    const isLast = !rows.slice(index + 1).some((other) => other.product_id === product_id);
    const done = isLast || rest.lt(ordered) ? rest : ordered;
    booked.set(product_id, rest.minus(done));
    const left = ordered.minus(done);
    return { ...row, quantity: trimZeros(row.quantity), done: formatQuantity(done), left: left.lt(0) ? '0' : formatQuantity(left) };
  });
  const events = await db<{ id: number; kind: string; at: Date; marks: number; kinds: MarkKind[] }[]>`
    SELECT e.id, e.kind, e.happened_at AS at, count(DISTINCT v.mark_id) AS marks, array_agg(DISTINCT m.kind) AS kinds
    FROM event e LEFT JOIN movement v ON v.event_id = e.id AND (e.kind <> 'build' OR v.quantity > 0) LEFT JOIN mark m ON m.id = v.mark_id
    WHERE e.order_id = ${order.id} GROUP BY e.id ORDER BY e.happened_at DESC, e.id DESC`;
  const { id: _, ...rest } = order;
  const complete = lines.every((line) => line.left === '0');
  const begun = lines.some((line) => line.done !== '0');
  return { ...rest, state: complete ? 'complete' : order.closed ? 'closed' : begun ? 'part' : 'waiting', lines, events: events.map((event) => ({ ...event, at: event.at.toISOString() })) };
}

/** Orders of a kind that still wait (most urgent first) or are done (latest first). */
export async function listOrders(db: Db, kind: OrderRecord['kind'], which: 'open' | 'done', limit = 200): Promise<OrderSummary[]> {
  const rows = await db<(OrderSummary & { units: string[] })[]>`
    WITH progress AS (
      SELECT l.order_id, l.product_id, sum(l.quantity) AS ordered,
        coalesce((SELECT sum(CASE WHEN ${kind} = 'sales' THEN -v.quantity ELSE v.quantity END) FROM event e JOIN movement v ON v.event_id = e.id JOIN mark m ON m.id = v.mark_id
          WHERE e.order_id = l.order_id AND m.product_id = l.product_id AND (${kind} <> 'work' OR v.quantity > 0)), 0) AS done
      FROM order_line l JOIN trade_order o ON o.id = l.order_id WHERE o.kind = ${kind} GROUP BY l.order_id, l.product_id
    ), counted AS (
      SELECT g.order_id, count(*) AS lines, string_agg(p.code, ', ' ORDER BY p.code) AS products, array_agg(DISTINCT p.unit) AS units,
        sum(greatest(g.ordered - g.done, 0)) AS left, sum(least(g.done / g.ordered, 1)) / count(*) AS part, bool_and(g.done >= g.ordered) AS complete, bool_or(g.done > 0) AS begun
      FROM progress g JOIN product p ON p.id = g.product_id GROUP BY g.order_id
    )
    SELECT o.kind, o.number, t.code AS partner, t.name AS "partnerName", o.due_on AS due, c.lines, c.products, c.left, c.units, c.part::float8 AS part,
      CASE WHEN c.complete THEN 'complete' WHEN o.closed_at IS NOT NULL THEN 'closed' WHEN c.begun THEN 'part' ELSE 'waiting' END AS state
    FROM trade_order o JOIN counted c ON c.order_id = o.id LEFT JOIN partner t ON t.id = o.partner_id
    WHERE o.kind = ${kind} AND (c.complete OR o.closed_at IS NOT NULL) = ${which === 'done'}
    ORDER BY ${which === 'open' ? db`o.due_on, o.number` : db`o.due_on DESC, o.number DESC`} LIMIT ${limit}`;
  return rows.map(({ units, ...row }) => ({ ...row, left: trimZeros(row.left), unit: units.length === 1 ? units[0]! : '' }));
}
