import type { ReturnRecord } from '../../core/shipping/return-record.ts';
import type { Db } from '../kernel/db/client.ts';
import { listed, mapListed, type Listed } from '../kernel/db/listed.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

/**
 * What came back lately, what waits for a decision first. What came in for service has a board of
 * its own.
 */
export async function readReturns(db: Db): Promise<Listed<ReturnRecord>> {
  const rows = await db<(ReturnRecord & { total: number })[]>`
    SELECT e.id AS event, e.document, e.happened_at::date AS day, t.name AS partner, e.reason,
      m.id AS mark, m.kind, m.number, p.code AS product, p.name, p.unit, m.state,
      sum(r.quantity) AS quantity, string_agg(DISTINCT s.document, ', ') AS "soldOn",
      NOT EXISTS (SELECT FROM stock k WHERE k.mark_id = m.id AND k.quantity > 0) AS gone,
      count(*) OVER ()::int AS total
    FROM returned r
      JOIN event e ON e.id = r.event_id
      JOIN event s ON s.id = r.shipment_id
      JOIN mark m ON m.id = r.mark_id
      JOIN product p ON p.id = m.product_id
      LEFT JOIN partner t ON t.id = e.partner_id
    WHERE NOT EXISTS (SELECT FROM service_event x WHERE x.event_id = e.id)
    GROUP BY e.id, t.name, m.id, p.code, p.name, p.unit
    ORDER BY (
      m.state = 'held' AND EXISTS (SELECT FROM stock k WHERE k.mark_id = m.id AND k.quantity > 0)
    ) DESC,
      e.id DESC, m.number
    LIMIT 60
  `;
  return mapListed(listed(rows), (row) => ({ ...row, quantity: trimZeros(row.quantity) }));
}
