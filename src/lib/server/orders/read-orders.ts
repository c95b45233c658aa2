import { groupBy } from '../../core/group-by.ts';
import type { Marking } from '../../core/catalogue/marking.ts';
import { effectivePlan, type MarkingPlan } from '../../core/catalogue/plan.ts';
import { numberKey } from '../../core/numbers/number.ts';
import { quantity, formatQuantity } from '../../core/quantity/quantity.ts';
import type { BookedAgainst } from '../../core/ledger/booked-against.ts';
import { readBookedAgainst } from './booked-against.ts';
import { readAnnounced } from './announced.ts';
import { schemeOf } from '../catalogue/numbering.ts';
import { presentPlan } from '../catalogue/present-plan.ts';
import type { Db } from '../kernel/db/client.ts';
import type { Listed } from '../kernel/db/listed.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

export interface OrderLineRecord {
  line: number;
  product: string;
  name: string;
  unit: string;
  decimals: number;
  marking: Marking;
  shelfLifeDays: number | null;
  gtin: string | null;
  /** How it is marked; what a sheet asks comes from here. */
  plan: MarkingPlan;
  /** Other units it is counted in, with their GTIN; the line's own where it was entered in one. */
  units: { name: string; holds: string; gtin: string | null }[];
  enteredAs: string | null;
  /** The most that may come in, by the tolerance. */
  most: string;
  /** Numbers the supplier announced, and whether they have come in. */
  announced: {
    lot: string | null;
    serial: string | null;
    quantity: string | null;
    expires: string | null;
    supplierNumber: string | null;
    arrived: boolean;
  }[];
  /** Whether its lots and its serials have a numbering scheme. */
  numbersLots: boolean;
  numbersSerials: boolean;
  quantity: string;
  done: string;
  left: string;
}
export interface OrderRecord {
  kind: 'purchase' | 'work' | 'sales';
  number: string;
  partner: string | null;
  partnerName: string | null;
  place: string | null;
  placed: string;
  due: string;
  note: string;
  closed: boolean;
  /** Somebody chose to name its serials later. */
  serialsLater: boolean;
  /**
   * `waiting` nothing booked yet, `part` some of it, `complete` all of it, `closed` ended by hand.
   */
  state: 'waiting' | 'part' | 'complete' | 'closed';
  /** The version of the bill a work order keeps, and the latest there is. */
  bill: { version: number; latest: number } | null;
  /** Outputs named ahead, and whether they are made. */
  outputs: PlannedOutput[];
  lines: OrderLineRecord[];
  /** What was booked against it, the latest first, and how many events there are. */
  events: BookedAgainst[];
  eventCount: number;
}
export interface PlannedOutput {
  id: number;
  product: string;
  lot: string | null;
  number: string;
  /** The mark, once it is made and not taken back. */ mark: number | null;
}

export interface OrderSummary {
  kind: OrderRecord['kind'];
  number: string;
  partner: string | null;
  partnerName: string | null;
  due: string;
  state: OrderRecord['state'];
  lines: number;
  products: string;
  /**
   * Sum over lines of what is left and its unit, which is empty where the lines have several: then
   * the sum means nothing, and lines are counted. And the part done, 0…1.
   */
  left: string;
  unit: string;
  openLines: number;
  part: number;
}

/** One order with its progress; what is booked counts towards its lines in their order. */
export async function readOrder(db: Db, kind: string, number: string): Promise<OrderRecord | null> {
  const [order] = await db<
    (Omit<
      OrderRecord,
      'lines' | 'events' | 'eventCount' | 'state' | 'closed' | 'bill' | 'outputs'
    > & {
      id: number;
      closed: boolean;
      version: number | null;
      latest: number | null;
    })[]
  >`
    SELECT o.id, o.kind, o.number, t.code AS partner, t.name AS "partnerName", p.code AS place,
      o.placed_on AS placed, o.due_on AS due, o.note, o.closed_at IS NOT NULL AS closed,
      o.serials_later_at IS NOT NULL AS "serialsLater", b.version,
      (SELECT max(x.version) FROM bill x WHERE x.product_id = b.product_id) AS latest
    FROM trade_order o
      LEFT JOIN bill b ON b.id = o.bill_id
      LEFT JOIN partner t ON t.id = o.partner_id
      LEFT JOIN place p ON p.id = o.place_id
    WHERE o.kind = ${kind} AND upper(o.number) = ${numberKey(number)}
  `;
  if (!order) return null;
  const rows = await db<
    (Omit<OrderLineRecord, 'done' | 'left' | 'plan' | 'announced' | 'units'> & {
      product_id: number;
      plan: MarkingPlan | null;
      warranty_months: number | null;
      units: OrderLineRecord['units'] | null;
    })[]
  >`
    SELECT l.line, l.product_id, p.code AS product, p.name, p.unit, p.decimals, p.marking,
      p.shelf_life_days AS "shelfLifeDays", p.warranty_months, p.gtin,
      ${schemeOf(db, 'lot')} IS NOT NULL AS "numbersLots",
      ${schemeOf(db, 'serial')} IS NOT NULL AS "numbersSerials", l.quantity,
      ${presentPlan(db)} AS plan,
      (
        SELECT json_agg(
          json_build_object(
            'name', u.name, 'holds', trim_scale(u.holds)::text, 'gtin', u.gtin
          ) ORDER BY u.holds
        )
        FROM product_unit u
        WHERE u.product_id = p.id
      ) AS units,
      trim_scale(l.unit_quantity)::text || ' ' || l.unit AS "enteredAs",
      l.quantity * (1 + coalesce(l.over_percent, p.over_receipt_percent) / 100) AS most
    FROM order_line l
      JOIN product p ON p.id = l.product_id
    WHERE l.order_id = ${order.id}
    ORDER BY l.line
  `;
  const announced = kind === 'purchase' ? await readAnnounced(db, order.id) : [];
  const announcedOn = groupBy(announced, (one) => one.line);
  const booked = new Map(
    (
      await db<
        { product_id: number; done: string }[]
      >`SELECT product_id, done FROM order_booked WHERE order_id = ${order.id}`
    ).map((row) => [row.product_id, quantity(row.done)])
  );
  const lines = rows.map(({ product_id, plan, warranty_months, units, ...row }, index) => {
    const rest = booked.get(product_id) ?? quantity(0);
    const ordered = quantity(row.quantity);
    // The last line of a product also shows what was booked beyond the order.
    const isLast = !rows.slice(index + 1).some((other) => other.product_id === product_id);
    const done = isLast || rest.lt(ordered) ? rest : ordered;
    booked.set(product_id, rest.minus(done));
    const left = ordered.minus(done);
    return {
      ...row,
      plan: effectivePlan(plan, row.marking, {
        shelfLifeDays: row.shelfLifeDays,
        warrantyMonths: warranty_months
      }),
      units: units ?? [],
      most: trimZeros(row.most),
      announced: (announcedOn.get(row.line) ?? []).map(({ line: _, ...one }) => one),
      quantity: trimZeros(row.quantity),
      done: formatQuantity(done),
      left: left.lt(0) ? '0' : formatQuantity(left)
    };
  });
  const against = await readBookedAgainst(db, order.id);
  const outputs = kind === 'work' ? await readOutputs(db, order.id) : [];
  const { id: _, version, latest, ...rest } = order;
  const complete = lines.every((line) => line.left === '0');
  const begun = lines.some((line) => line.done !== '0');
  return {
    ...rest,
    bill: version === null ? null : { version, latest: latest! },
    outputs,
    state: complete ? 'complete' : order.closed ? 'closed' : begun ? 'part' : 'waiting',
    lines,
    events: against.rows,
    eventCount: against.total
  };
}

/** The outputs of a work order that were named ahead, in the order of their naming. */
export async function readOutputs(db: Db, orderId: number): Promise<PlannedOutput[]> {
  return db<PlannedOutput[]>`
    SELECT n.id, p.code AS product, n.lot, n.number,
      (
        SELECT m.id
        FROM mark m
        WHERE m.product_id = n.product_id
          AND m.number_key = n.number_key
          AND m.kind <> 'bulk'
          AND m.id NOT IN (
            SELECT o.mark_id
            FROM transformation_reversed x
              JOIN transformation_output o USING (transformation_id)
            WHERE NOT EXISTS (SELECT FROM stock s WHERE s.mark_id = o.mark_id AND s.quantity > 0)
          )
        LIMIT 1
      ) AS mark
    FROM planned_output n
      JOIN product p ON p.id = n.product_id
    WHERE n.order_id = ${orderId}
    ORDER BY n.id
  `;
}

interface CountedOrder extends Omit<OrderSummary, 'unit'> {
  units: string[];
  total: number;
  late: number;
  dueToday: number;
}

/** The most urgent of the orders that wait, and what there is of them in all. */
export interface OpenOrders extends Listed<OrderSummary> {
  late: number;
  dueToday: number;
}

/**
 * Orders of a kind that still wait, most urgent first.
 * @param today `YYYY-MM-DD`
 */
export async function readOpenOrders(
  db: Db,
  kind: OrderRecord['kind'],
  today: string,
  limit: number
): Promise<OpenOrders> {
  const rows = await orderRows(db, kind, 'open', limit, today);
  const [first] = rows;
  return {
    rows: rows.map(asSummary),
    total: first?.total ?? 0,
    late: first?.late ?? 0,
    dueToday: first?.dueToday ?? 0
  };
}

/** Orders of a kind that still wait (most urgent first) or are done (latest first). */
export const listOrders = async (
  db: Db,
  kind: OrderRecord['kind'],
  which: 'open' | 'done',
  limit = 200
): Promise<OrderSummary[]> => (await orderRows(db, kind, which, limit, null)).map(asSummary);

const asSummary = ({ units, total: _, late: __, dueToday: ___, ...row }: CountedOrder) => ({
  ...row,
  left: trimZeros(row.left),
  unit: units.length === 1 ? units[0]! : ''
});

/**
 * The orders of one list, added up for those alone that are shown: what waits is kept as bookings
 * come, and what is done grows for ever.
 */
function orderRows(
  db: Db,
  kind: OrderRecord['kind'],
  which: 'open' | 'done',
  limit: number,
  today: string | null
): Promise<CountedOrder[]> {
  return db<CountedOrder[]>`
    WITH shown AS (${which === 'open' ? firstWaiting(db, kind, limit) : lastDone(db, kind, limit)}),
      waiting AS (
        SELECT count(*)::int AS total,
          count(*) FILTER (WHERE o.due_on < ${today}::date)::int AS late,
          count(*) FILTER (WHERE o.due_on = ${today}::date)::int AS "dueToday"
        FROM waiting_order w
          JOIN trade_order o ON o.id = w.order_id
        WHERE o.kind = ${kind} AND ${which === 'open'}
      ),
      progress AS (
        SELECT l.order_id, l.product_id, sum(l.quantity) AS ordered,
          coalesce(max(b.done), 0) AS done
        FROM shown o
          JOIN order_line l ON l.order_id = o.id
          LEFT JOIN order_booked b ON b.order_id = l.order_id AND b.product_id = l.product_id
        GROUP BY l.order_id, l.product_id
      ),
      counted AS (
        SELECT g.order_id, count(*) AS lines,
          count(*) FILTER (WHERE g.done < g.ordered)::int AS open_lines,
          string_agg(p.code, ', ' ORDER BY p.code) AS products,
          array_agg(DISTINCT p.unit) AS units, sum(greatest(g.ordered - g.done, 0)) AS left,
          sum(least(g.done / g.ordered, 1)) / count(*) AS part,
          bool_and(g.done >= g.ordered) AS complete, bool_or(g.done > 0) AS begun
        FROM progress g
          JOIN product p ON p.id = g.product_id
        GROUP BY g.order_id
      )
    SELECT o.kind, o.number, t.code AS partner, t.name AS "partnerName", o.due_on AS due, c.lines,
      c.products, c.left, c.units, c.open_lines AS "openLines", c.part::float8 AS part,
      CASE
        WHEN c.complete THEN 'complete'
        WHEN o.closed_at IS NOT NULL THEN 'closed'
        WHEN c.begun THEN 'part'
        ELSE 'waiting'
      END AS state,
      waiting.total, waiting.late, waiting."dueToday"
    FROM waiting, shown o
      JOIN counted c ON c.order_id = o.id
      LEFT JOIN partner t ON t.id = o.partner_id
    ORDER BY ${which === 'open' ? db`o.due_on, o.number` : db`o.due_on DESC, o.number DESC`}
  `;
}

// As a list: to look for the first of them through all there are by their day takes longer.
const firstWaiting = (db: Db, kind: OrderRecord['kind'], limit: number) => db`
  SELECT o.*
  FROM trade_order o
  WHERE o.id = ANY(ARRAY(SELECT order_id FROM waiting_order)) AND o.kind = ${kind}
  ORDER BY o.due_on, o.number
  LIMIT ${limit}
`;

const lastDone = (db: Db, kind: OrderRecord['kind'], limit: number) => db`
  SELECT o.*
  FROM trade_order o
  WHERE o.kind = ${kind} AND NOT EXISTS (SELECT FROM waiting_order w WHERE w.order_id = o.id)
  ORDER BY o.due_on DESC, o.number DESC
  LIMIT ${limit}
`;
