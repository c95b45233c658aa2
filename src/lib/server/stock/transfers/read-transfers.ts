import type { Db } from '../../kernel/db/client.ts';
import { listed, type Listed } from '../../kernel/db/listed.ts';
import { trimZeros } from '../../kernel/quantity-text.ts';
import { readLying, type LyingRow } from '../lying.ts';
import type { TransferHead } from './transfer-head.ts';

/** A transfer in a list, with how much of it is still under way. */
export interface TransferRow {
  document: string;
  from: string;
  to: string;
  openedAt: string;
  openedBy: string;
  /** Lots and serials still under way, and since when the oldest of them is. */
  marks: number;
  since: string | null;
}

/** Transfers, those with goods under way first, oldest first: the first two hundred. */
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
    ORDER BY w.marks > 0 DESC, CASE WHEN w.marks > 0 THEN t.id ELSE -t.id END
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

/** What is under way of a transfer, and what happened on it. */
export async function readTransfer(
  db: Db,
  head: TransferHead
): Promise<{ underWay: LyingRow[]; steps: TransferStep[] }> {
  const [underWay, steps] = await Promise.all([
    readLying(db, { place: head.way }),
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
  return { underWay, steps: steps.map((one) => ({ ...one, quantity: trimZeros(one.quantity) })) };
}
