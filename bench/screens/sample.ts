import type { Sql } from '../../src/lib/server/kernel/db/client.ts';

/** Of a database one thing of each kind, to ask every route for. */
export interface Sample {
  lot: number;
  serial: number;
  /** A made serial on hand: with parts in it. */ unit: number;
  lotNumber: string;
  /** The product of the lot. */ lotProduct: string;
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
  /** A product with a spec of its own. */ specced: string;
  route: string;
}

/**
 * Picks what stands for its kind: of the large firm where the database has it, else of the demo.
 */
export async function pickSample(sql: Sql): Promise<Sample> {
  const [moved] = await pickMoved(sql);
  const [orders] = await pickOrders(sql);
  const [papers] = await pickPapers(sql);
  const sample = { ...moved, ...orders, ...papers };
  const missing = Object.entries(sample).filter(([, value]) => value === null);
  if (missing.length > 0)
    throw new Error(`Nothing of: ${missing.map(([name]) => name).join(', ')}`);
  return sample;
}

type Moved = Pick<
  Sample,
  | 'lot'
  | 'serial'
  | 'unit'
  | 'lotNumber'
  | 'lotProduct'
  | 'serialNumber'
  | 'product'
  | 'made'
  | 'supplier'
  | 'customer'
  | 'place'
  | 'receipt'
  | 'shipment'
>;

/** The last lot that a unit on hand was made of, the last serial shipped, the last lot received. */
const pickMoved = (sql: Sql) => sql<[Moved]>`
  WITH used AS (
    SELECT i.mark_id AS lot, o.mark_id AS unit
    FROM transformation t
      JOIN transformation_input i ON i.transformation_id = t.id
      JOIN mark lot ON lot.id = i.mark_id AND lot.kind = 'lot'
      JOIN transformation_output o ON o.transformation_id = t.id
      JOIN stock s ON s.mark_id = o.mark_id AND s.quantity > 0 AND s.mark_kind = 'serial'
    ORDER BY t.id DESC, lot.id
    LIMIT 1
  ), shipped AS (
    SELECT e.id, e.partner_id, m.id AS serial, m.number
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
  SELECT used.lot, shipped.serial, used.unit, received.id AS receipt, shipped.id AS shipment,
    lot.number AS "lotNumber", of_lot.code AS "lotProduct", shipped.number AS "serialNumber", p.code AS product,
    made.code AS made, supplier.code AS supplier, customer.code AS customer, place.code AS place
  FROM used, shipped, received, mark lot, product of_lot, mark unit, product p, product made, partner supplier,
    partner customer, place
  WHERE lot.id = used.lot
    AND of_lot.id = lot.product_id
    AND unit.id = used.unit
    AND p.id = received.product_id
    AND made.id = unit.product_id
    AND supplier.id = received.partner_id
    AND customer.id = shipped.partner_id
    AND place.id = received.place_id
`;

/** Of each kind the last order nothing was booked against: those are the ones people open. */
const pickOrders = (sql: Sql) => sql<[Pick<Sample, 'purchase' | 'work' | 'sales' | 'picked'>]>`
  WITH untouched AS (
    SELECT DISTINCT ON (o.kind) o.kind, o.number
    FROM waiting_order w
      JOIN trade_order o ON o.id = w.order_id
    WHERE NOT EXISTS (SELECT FROM event e WHERE e.order_id = o.id)
    ORDER BY o.kind, o.id DESC
  )
  SELECT (SELECT number FROM untouched WHERE kind = 'purchase') AS purchase,
    (SELECT number FROM untouched WHERE kind = 'work') AS work,
    (SELECT number FROM untouched WHERE kind = 'sales') AS sales,
    (
      SELECT o.number
      FROM pick k
        JOIN trade_order o ON o.id = k.order_id
      ORDER BY k.id DESC
      LIMIT 1
    ) AS picked
`;

type Papers = Omit<Sample, keyof Moved | 'purchase' | 'work' | 'sales' | 'picked'>;

const pickPapers = (sql: Sql) => sql<[Papers]>`
  SELECT (SELECT sscc FROM logistic_unit ORDER BY id DESC LIMIT 1) AS sscc,
    (SELECT max(id) FROM label_job) AS labels,
    (SELECT number FROM recall_case ORDER BY id DESC LIMIT 1) AS recall,
    (SELECT number FROM service_job ORDER BY id DESC LIMIT 1) AS job,
    (SELECT document FROM stock_count ORDER BY id DESC LIMIT 1) AS count,
    (SELECT document FROM transfer ORDER BY id DESC LIMIT 1) AS transfer,
    (SELECT code FROM station ORDER BY id LIMIT 1) AS station,
    (SELECT code FROM route ORDER BY id LIMIT 1) AS route,
    (
      SELECT p.code
      FROM spec s
        JOIN product p ON p.id = s.product_id
      WHERE s.partner_id IS NULL
      ORDER BY s.id DESC
      LIMIT 1
    ) AS specced
`;
