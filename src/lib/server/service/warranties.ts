import { warrantyOf, type Warranty } from '../../core/service/warranty.ts';
import type { Db } from '../kernel/db/client.ts';

/** What warranties a unit or a part has: ours to whoever bought it, its supplier’s to us. */
export interface Warranties {
  ours: Warranty;
  /** Null where it was not received from anybody. */
  supplier:
    (Warranty & { partner: string; name: string; receipt: number; document: string }) | null;
}

interface Row {
  mark: number;
  sold: string | null;
  months: number | null;
  received: string | null;
  supplierMonths: number | null;
  partner: string | null;
  name: string | null;
  receipt: number | null;
  document: string | null;
}

/**
 * Warranties of marks on a day. Ours begins with the latest sale, or the exchange it went out in;
 * what went back after service goes on with the one it had. A customer’s contract says how long,
 * else the mark itself. The supplier’s begins with the receipt and runs as long as its plan said
 * then.
 */
export async function readWarranties(
  db: Db,
  marks: readonly number[],
  today: string
): Promise<Map<number, Warranties>> {
  const rows = await db<Row[]>`
    SELECT m.id AS mark, coalesce(m.warranty_start, s.day) AS sold,
      coalesce(s.months, m.warranty_months) AS months, r.day AS received,
      m.warranty_months AS "supplierMonths", r.partner, r.name, r.event AS receipt, r.document
    FROM mark m
      LEFT JOIN LATERAL (
        SELECT e.happened_at::date AS day, t.warranty_months AS months
        FROM movement v
          JOIN event e ON e.id = v.event_id AND e.kind = 'ship'
          LEFT JOIN partner t ON t.id = e.partner_id
        WHERE v.mark_id = m.id
          AND NOT is_taken_back(e.id, m.id)
          AND NOT EXISTS (
            SELECT
            FROM service_event x
              JOIN service_job j ON j.id = x.job_id
            WHERE x.event_id = e.id AND j.exchange_mark IS DISTINCT FROM m.id
          )
        ORDER BY e.happened_at DESC, e.id DESC
        LIMIT 1
      ) s ON true
      LEFT JOIN LATERAL (
        SELECT e.id AS event, e.document, e.happened_at::date AS day, t.code AS partner, t.name
        FROM movement v
          JOIN event e ON e.id = v.event_id AND e.kind = 'receive'
          JOIN partner t ON t.id = e.partner_id
        WHERE v.mark_id = m.id AND NOT is_taken_back(e.id, m.id)
        ORDER BY e.happened_at DESC, e.id DESC
        LIMIT 1
      ) r ON true
    WHERE m.id = ANY(${marks as number[]})
  `;
  return new Map(rows.map((row) => [row.mark, asWarranties(row, today)]));
}

function asWarranties(row: Row, today: string): Warranties {
  const { partner, name, receipt, document } = row;
  const received = warrantyOf(row.received, row.supplierMonths, today);
  return {
    ours: warrantyOf(row.sold, row.months, today),
    supplier:
      partner === null
        ? null
        : { ...received, partner, name: name!, receipt: receipt!, document: document! }
  };
}
