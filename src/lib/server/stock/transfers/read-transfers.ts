import type { Db } from '../../kernel/db/client.ts';
import { listed, type Listed } from '../../kernel/db/listed.ts';
import { trimZeros } from '../../kernel/quantity-text.ts';
import type { TransferRow } from '../../../core/stock/transfer-row.ts';
import type { CartonUnderWay } from '../../../core/stock/carton-under-way.ts';
import { readLying, type LyingRow } from '../lying.ts';
import { readTransferOrder, type OrderedTransfer } from './read-order.ts';
import type { TransferHead } from './transfer-head.ts';

/**
 * Transfers: those still to leave or under way first, the oldest of them first, then those that
 * have ended, the latest first. The first two hundred.
 */
export async function listTransfers(db: Db): Promise<Listed<TransferRow>> {
  const rows = await db<(TransferRow & { total: number })[]>`
    SELECT t.document, a.name AS from, b.name AS to, to_json(t.opened_at) #>> '{}' AS "openedAt",
      p.name AS "openedBy", w.marks,
      CASE
        WHEN w.marks > 0 THEN (
          SELECT min(e.happened_at)::date
          FROM transfer_event x
            JOIN event e ON e.id = x.event_id
          WHERE x.transfer_id = t.id
        )
      END AS since,
      o.lines AS "toLeave", o.due,
      count(*) OVER ()::int AS total
    FROM transfer t
      JOIN site a ON a.id = t.from_site_id
      JOIN site b ON b.id = t.to_site_id
      JOIN person p ON p.id = t.opened_by
      CROSS JOIN LATERAL (
        SELECT count(*)::int AS marks
        FROM stock s
        WHERE s.place_id = t.place_id AND s.quantity > 0
      ) w
      CROSS JOIN LATERAL (
        SELECT count(*)::int AS lines, min(d.due_on) AS due
        FROM transfer_order d
          JOIN transfer_line n USING (transfer_id)
          LEFT JOIN transfer_progress g
            ON g.transfer_id = d.transfer_id AND g.product_id = n.product_id
        WHERE d.transfer_id = t.id
          AND d.closed_at IS NULL
          AND n.quantity > coalesce(g.gone, 0)
      ) o
    ORDER BY w.marks + o.lines > 0 DESC, CASE WHEN w.marks + o.lines > 0 THEN t.id ELSE -t.id END
    LIMIT 200
  `;
  return listed(rows);
}

/** One thing that happened on a transfer. */
export interface TransferStep {
  event: number;
  kind: string;
  at: string;
  by: string;
  reason: string | null;
  marks: number;
  /** Into the way above zero, out of it below. */
  quantity: string;
}

/**
 * What is under way of a transfer, the cartons it may be in, what was ordered of it, and what
 * happened on it.
 */
export async function readTransfer(
  db: Db,
  head: TransferHead
): Promise<{
  underWay: Listed<LyingRow>;
  cartons: CartonUnderWay[];
  steps: TransferStep[];
  order: OrderedTransfer | null;
}> {
  const [underWay, cartons, order, steps] = await Promise.all([
    readLying(db, { place: head.way }),
    readCartons(db, head),
    readTransferOrder(db, head),
    db<TransferStep[]>`
      SELECT e.id AS event, e.kind, to_json(e.happened_at) #>> '{}' AS at, n.name AS by, e.reason,
        count(DISTINCT v.mark_id)::int AS marks, sum(v.quantity) AS quantity
      FROM transfer_event x
        JOIN event e ON e.id = x.event_id
        JOIN person n ON n.id = e.booked_by
        JOIN transfer t ON t.id = x.transfer_id
        JOIN movement v ON v.event_id = e.id AND v.place_id = t.place_id
      WHERE x.transfer_id = ${head.id}
      GROUP BY e.id, n.name
      ORDER BY e.id
    `
  ]);
  return {
    underWay,
    cartons,
    order,
    steps: steps.map((one) => ({ ...one, quantity: trimZeros(one.quantity) }))
  };
}

/**
 * Cartons all of whose content stands on the way. Where more of a lot is in cartons than is under
 * way, each of them may be the one.
 */
const readCartons = (db: Db, { way }: TransferHead): Promise<CartonUnderWay[]> => db<
  CartonUnderWay[]
>`
  WITH here AS (
    SELECT s.mark_id, s.quantity
    FROM place c
      JOIN stock s ON s.place_id = c.id AND s.quantity > 0
    WHERE c.code = ${way}
  )
  SELECT u.sscc, p.sscc AS pallet,
    json_agg(json_build_object('mark', w.mark_id, 'quantity', trim_scale(w.quantity)::text)) AS contents
  FROM logistic_unit u
    JOIN unit_content w ON w.unit_id = u.id AND w.quantity > 0 AND NOT w.shipped
    LEFT JOIN here h ON h.mark_id = w.mark_id
    LEFT JOIN unit_on_pallet x ON x.child_id = u.id
    LEFT JOIN logistic_unit p ON p.id = x.pallet_id
  WHERE u.id IN (SELECT c.unit_id FROM here JOIN unit_content c USING (mark_id) WHERE c.quantity > 0)
  GROUP BY u.id, p.sscc
  HAVING bool_and(coalesce(h.quantity, 0) >= w.quantity)
  ORDER BY u.id
`;
