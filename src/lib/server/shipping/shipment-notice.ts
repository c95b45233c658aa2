import type { Db } from '../kernel/db/client.ts';

/**
 * The events a shipment notice tells: what was put into the cartons and pallets that left, and the
 * shipment itself. Any other event tells itself.
 */
export async function shipmentNoticeIds(db: Db, event: number): Promise<number[]> {
  const rows = await db<{ id: number }[]>`
    SELECT ${event}::bigint AS id
    UNION
    SELECT p.event_id
    FROM unit_shipped s
      JOIN packing p ON p.unit_id = s.unit_id
    WHERE s.event_id = ${event}
  `;
  return rows.map((row) => row.id);
}
