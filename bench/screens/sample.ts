import type { Sql } from '../../src/lib/server/kernel/db/client.ts';

/** Of a database one thing of each kind, to ask every route for. */
export interface Sample {
  lot: number;
  serial: number;
  /** A made serial on hand: with parts in it. */ unit: number;
  lotNumber: string;
  serialNumber: string;
  product: string;
  /** A product that is made. */ made: string;
  supplier: string;
  customer: string;
  place: string;
  receipt: number;
  shipment: number;
  purchase: string;
  work: string;
  sales: string;
  picked: string;
  sscc: string;
  labels: number;
  recall: string;
  job: string;
  count: string;
  transfer: string;
  station: string;
  route: string;
}

/**
 * Picks what stands for its kind: of the large firm where the database has it, else of the demo.
 * Orders are open ones, as those are the ones people open.
 */
export async function pickSample(sql: Sql): Promise<Sample> {
  const [row] = await sql<[Sample]>`
    WITH open_order AS (
      SELECT o.kind, max(o.id) AS id
      FROM trade_order o
      WHERE o.closed_at IS NULL
        AND NOT EXISTS (SELECT FROM event e WHERE e.order_id = o.id)
      GROUP BY o.kind
    ), used AS (
      SELECT i.mark_id AS lot, o.mark_id AS unit
      FROM transformation t
      JOIN transformation_input i ON i.transformation_id = t.id
      JOIN mark lot ON lot.id = i.mark_id AND lot.kind = 'lot'
      JOIN transformation_output o ON o.transformation_id = t.id
      JOIN stock s ON s.mark_id = o.mark_id AND s.quantity > 0 AND s.mark_kind = 'serial'
      ORDER BY t.id DESC, lot.id
      LIMIT 1
    ), shipped AS (
      SELECT e.id, e.partner_id, m.id AS serial, m.number, e.order_id
      FROM event e
      JOIN movement v ON v.event_id = e.id
      JOIN mark m ON m.id = v.mark_id AND m.kind = 'serial'
      WHERE e.kind = 'ship'
      ORDER BY e.id DESC
      LIMIT 1
    ), received AS (
      SELECT e.id, e.partner_id, v.place_id, m.product_id
      FROM event e
      JOIN movement v ON v.event_id = e.id
      JOIN mark m ON m.id = v.mark_id AND m.kind = 'lot'
      WHERE e.kind = 'receive' AND e.partner_id IS NOT NULL
      ORDER BY e.id DESC
      LIMIT 1
    )
    SELECT used.lot, shipped.serial, used.unit,
      (SELECT number FROM mark WHERE id = used.lot) AS "lotNumber",
      shipped.number AS "serialNumber",
      (SELECT code FROM product WHERE id = received.product_id) AS product,
      (
        SELECT p.code
        FROM mark m
        JOIN product p ON p.id = m.product_id
        WHERE m.id = used.unit
      ) AS made,
      (SELECT code FROM partner WHERE id = received.partner_id) AS supplier,
      (SELECT code FROM partner WHERE id = shipped.partner_id) AS customer,
      (SELECT code FROM place WHERE id = received.place_id) AS place,
      received.id AS receipt, shipped.id AS shipment,
      (
        SELECT number
        FROM trade_order
        WHERE id = (SELECT id FROM open_order WHERE kind = 'purchase')
      ) AS purchase,
      (
        SELECT number
        FROM trade_order
        WHERE id = (SELECT id FROM open_order WHERE kind = 'work')
      ) AS work,
      (
        SELECT number
        FROM trade_order
        WHERE id = (SELECT id FROM open_order WHERE kind = 'sales')
      ) AS sales,
      (
        SELECT o.number
        FROM pick k
        JOIN trade_order o ON o.id = k.order_id
        ORDER BY k.id DESC
        LIMIT 1
      ) AS picked,
      (SELECT sscc FROM logistic_unit ORDER BY id DESC LIMIT 1) AS sscc,
      (SELECT max(id) FROM label_job) AS labels,
      (SELECT number FROM recall_case ORDER BY id DESC LIMIT 1) AS recall,
      (SELECT number FROM service_job ORDER BY id DESC LIMIT 1) AS job,
      (SELECT document FROM stock_count ORDER BY id DESC LIMIT 1) AS count,
      (SELECT document FROM transfer ORDER BY id DESC LIMIT 1) AS transfer,
      (SELECT code FROM station ORDER BY id LIMIT 1) AS station,
      (SELECT code FROM route ORDER BY id LIMIT 1) AS route
    FROM used, shipped, received
  `;
  const missing = Object.entries(row).filter(([, value]) => value === null);
  if (missing.length > 0)
    throw new Error(`Nothing of: ${missing.map(([name]) => name).join(', ')}`);
  return row;
}
