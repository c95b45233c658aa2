import type { MarkKind, MarkState } from '../../core/catalogue/marking.ts';
import type { Db } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

export interface ReturnRow {
  event: number;
  document: string;
  day: string;
  partner: string | null;
  reason: string | null;
  mark: number;
  kind: MarkKind;
  number: string | null;
  product: string;
  name: string;
  unit: string;
  state: MarkState;
  quantity: string;
  soldOn: string;
  /** Nothing of it is on hand any more. */ gone: boolean;
}

/**
 * What came back lately, what waits for a decision first. What came in for service has a board of
 * its own.
 */
export async function readReturns(db: Db): Promise<ReturnRow[]> {
  const rows = await db<ReturnRow[]>`
    SELECT e.id AS event, e.document, e.happened_at::date AS day, t.name AS partner, e.reason,
      m.id AS mark, m.kind, m.number, p.code AS product, p.name, p.unit, m.state,
      sum(r.quantity) AS quantity, string_agg(DISTINCT s.document, ', ') AS "soldOn",
      NOT EXISTS (SELECT FROM stock k WHERE k.mark_id = m.id AND k.quantity > 0) AS gone
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
  return rows.map((row) => ({ ...row, quantity: trimZeros(row.quantity) }));
}
