import { isFreePlace, stateOf } from '../kernel/db/what-counts.ts';
import { monthsLater } from '../../core/calendar/day.ts';
import { listed, mapListed, type Listed } from '../kernel/db/listed.ts';
import type { Db } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

/**
 * A sale of a mark: to whom, on which paper, when, how much of it they still have, and until when
 * its warranty runs.
 */
export interface SaleRecord {
  event: number;
  document: string;
  day: string;
  partner: string | null;
  partnerCode: string | null;
  shipped: string;
  quantity: string;
  sscc: string | null;
  warrantyUntil: string | null;
}

/**
 * Every sale of a mark (and of the serials within it), the latest first; at most two hundred. A
 * warranty starts at dispatch.
 */
export async function readSalesOf(db: Db, mark: number): Promise<SaleRecord[]> {
  const rows = await db<
    (Omit<SaleRecord, 'warrantyUntil'> & { months: number | null; start: string | null })[]
  >`
    SELECT s.event_id AS event, e.document, e.happened_at::date AS day, t.name AS partner,
      t.code AS "partnerCode", sum(s.shipped) AS shipped, sum(s.quantity) AS quantity,
      min(m.warranty_months) AS months, min(m.warranty_start) AS start,
      min(
        (
          SELECT u.sscc
          FROM unit_shipped x
            JOIN unit_content c ON c.unit_id = x.unit_id
              AND c.mark_id = s.mark_id
              AND c.quantity > 0
            JOIN logistic_unit u ON u.id = x.unit_id
          WHERE x.event_id = s.event_id
          LIMIT 1
        )
      ) AS sscc
    FROM sold s
      JOIN mark m ON m.id = s.mark_id
      JOIN event e ON e.id = s.event_id
      LEFT JOIN partner t ON t.id = e.partner_id
    WHERE s.mark_id = ANY(
      ARRAY(SELECT ${mark}::bigint UNION ALL SELECT x.id FROM mark x WHERE x.lot_id = ${mark})
    )
    GROUP BY s.event_id, e.document, e.happened_at, t.name, t.code
    ORDER BY e.happened_at DESC, s.event_id DESC
    LIMIT 200
  `;
  return rows.map(({ months, start, ...row }) => ({
    ...row,
    shipped: trimZeros(row.shipped),
    quantity: trimZeros(row.quantity),
    warrantyUntil: months === null ? null : monthsLater(start ?? row.day, months)
  }));
}

/** A line of a sales order that was shipped in part, or is late, with what is free for it now. */
export interface BackorderRow {
  order: string;
  partner: string | null;
  due: string;
  product: string;
  name: string;
  unit: string;
  ordered: string;
  shipped: string;
  left: string;
  free: string;
}

/**
 * What is still owed to customers: lines of open orders shipped in part, or past their day, and
 * what of each product is free and usable now: the first five hundred, how many there are, and how many
 * of all can be filled. @param day `YYYY-MM-DD`
 */
export async function readBackorders(
  db: Db,
  day: string
): Promise<Listed<BackorderRow> & { covered: number }> {
  const rows = await db<(BackorderRow & { total: number; covered: number })[]>`
    WITH owed AS (
      SELECT o.id, o.number, o.partner_id, o.due_on, l.product_id, sum(l.quantity) AS ordered,
        coalesce(
          (SELECT d.done FROM order_booked d WHERE d.order_id = o.id AND d.product_id = l.product_id),
            0
        ) AS done
      FROM waiting_order w
        JOIN trade_order o ON o.id = w.order_id
        JOIN order_line l ON l.order_id = o.id
      WHERE o.kind = 'sales'
      GROUP BY o.id, l.product_id
    ),
      -- What is listed, and no more, is asked what is free for it.
      listed AS MATERIALIZED (
        SELECT w.*
        FROM owed w
        WHERE w.done < w.ordered
          AND (w.due_on < ${day} OR EXISTS (SELECT FROM owed y WHERE y.id = w.id AND y.done > 0))
      ),
      free AS (
        SELECT s.product_id, sum(s.quantity) AS quantity
        FROM stock s
          JOIN mark m ON m.id = s.mark_id
          LEFT JOIN mark l ON l.id = m.lot_id
        WHERE s.quantity > 0
          AND ${isFreePlace(db, db`s.place_id`)}
          AND s.product_id = ANY(ARRAY(SELECT product_id FROM listed))
          AND ${stateOf(db)} = 'usable'
          AND coalesce(m.expires_on, l.expires_on, 'infinity') >= ${day}
        GROUP BY s.product_id
      ),
      promised AS (
        SELECT m.product_id, r.order_id, sum(r.quantity) AS quantity
        FROM reservation r
          JOIN mark m ON m.id = r.mark_id
          JOIN trade_order o ON o.id = r.order_id
        WHERE o.closed_at IS NULL AND coalesce(r.until, 'infinity') >= ${day}
        GROUP BY m.product_id, r.order_id
      )
    SELECT *, count(*) OVER ()::int AS total,
      count(*) FILTER (WHERE free >= "left") OVER ()::int AS covered
    FROM (
    SELECT w.number AS order, t.name AS partner, w.due_on AS due, p.code AS product, p.name, p.unit,
      w.ordered, w.done AS shipped, w.ordered - w.done AS left,
      greatest(
        0,
          coalesce(f.quantity, 0) - coalesce(
            (
              SELECT sum(x.quantity)
              FROM promised x
              WHERE x.product_id = w.product_id AND x.order_id <> w.id
            ),
              0
          )
      ) AS free
    FROM listed w
      JOIN product p ON p.id = w.product_id
      LEFT JOIN partner t ON t.id = w.partner_id
      LEFT JOIN free f ON f.product_id = w.product_id
    ) r
    ORDER BY due, "order", product
    LIMIT 500
  `;
  const list = mapListed(listed(rows), ({ covered: _, ...row }) => ({
    ...row,
    ordered: trimZeros(row.ordered),
    shipped: trimZeros(row.shipped),
    left: trimZeros(row.left),
    free: trimZeros(row.free)
  }));
  return { ...list, covered: rows[0]?.covered ?? 0 };
}

/** Sales orders whose serials somebody chose to name later and that still lack some. */
export async function readSerialsLater(db: Db): Promise<
  {
    order: string;
    partner: string | null;
    due: string;
    product: string;
    missing: string;
    since: string;
  }[]
> {
  const rows = await db<
    {
      order: string;
      partner: string | null;
      due: string;
      product: string;
      missing: string;
      since: string;
    }[]
  >`
    SELECT o.number AS order, t.name AS partner, o.due_on AS due, p.code AS product,
      o.serials_later_at::date AS since,
      sum(l.quantity) - coalesce((SELECT d.done FROM order_booked d WHERE d.order_id = o.id AND d.product_id = p.id), 0) - coalesce(
        (
          SELECT sum(r.quantity)
          FROM reservation r
            JOIN mark m ON m.id = r.mark_id
          WHERE r.order_id = o.id AND m.product_id = p.id
        ),
          0
      ) AS missing
    FROM waiting_order w
      JOIN trade_order o ON o.id = w.order_id
      JOIN order_line l ON l.order_id = o.id
      JOIN product p ON p.id = l.product_id AND p.marking LIKE 'serial%'
      LEFT JOIN partner t ON t.id = o.partner_id
    WHERE o.kind = 'sales' AND o.serials_later_at IS NOT NULL
    GROUP BY o.id, t.name, p.id
    ORDER BY o.due_on, o.number
  `;
  return rows
    .map((row) => ({ ...row, missing: trimZeros(row.missing) }))
    .filter((row) => Number(row.missing) > 0);
}
