import { isOnHand } from '../kernel/db/what-counts.ts';
import type { Db } from '../kernel/db/client.ts';
import type { Listed } from '../kernel/db/listed.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

export interface HeldMark {
  id: number;
  kind: 'lot' | 'serial';
  number: string;
  product: string;
  onHand: string;
  unit: string;
  since: string;
  reason: string | null;
}

/** Lots and serials that are held, longest first, with why: the first of them, and how many. */
export async function readHeld(db: Db, limit = 20): Promise<Listed<HeldMark>> {
  const [rows, [all]] = await Promise.all([
    db<HeldMark[]>`
      SELECT m.id, m.kind, m.number, p.code AS product, p.unit, m.since, m.reason,
        coalesce(
          (
            SELECT sum(s.quantity)
            FROM stock s
            WHERE ${isOnHand(db, db`s.place_id`)}
              AND s.mark_id = ANY(
              ARRAY(
                SELECT m.id
                UNION ALL
                SELECT x.id
                FROM mark x
                WHERE x.lot_id = m.id
              )
            )
          ),
            0
        ) AS "onHand"
      FROM (
        SELECT m.*, c.since, c.reason
        FROM mark m
          JOIN LATERAL (
            SELECT e.happened_at::date AS since, e.reason
            FROM mark_change c
              JOIN event e ON e.id = c.event_id
            WHERE c.mark_id = m.id AND c.field = 'state'
            ORDER BY c.id DESC
            LIMIT 1
          ) c ON true
        WHERE m.state = 'held'
        ORDER BY c.since, m.number
        LIMIT ${limit}
      ) m
        JOIN product p ON p.id = m.product_id
      ORDER BY m.since, m.number
    `,
    db<[{ total: number }]>`SELECT count(*)::int AS total FROM mark WHERE state = 'held'`
  ]);
  return { rows: rows.map((row) => ({ ...row, onHand: trimZeros(row.onHand) })), total: all.total };
}
