import type { Db } from '../kernel/db/client.ts';

/** The last ten certificates that name a mark, the latest first. */
export async function certificatesOfMark(
  db: Db,
  markId: number
): Promise<{ number: number; at: string }[]> {
  const rows = await db<{ number: number; at: Date }[]>`
    SELECT c.number, c.issued_at AS at
    FROM certificate_mark m
      JOIN certificate c USING (number)
    WHERE m.mark_id = ${markId}
    ORDER BY c.number DESC
    LIMIT 10
  `;
  return rows.map((row) => ({ number: row.number, at: row.at.toISOString() }));
}

/** The certificates issued for a shipment, the first first. */
export const certificatesOfEvent = (db: Db, eventId: number): Promise<{ number: number }[]> =>
  db`
    SELECT number
    FROM certificate
    WHERE event_id = ${eventId}
    ORDER BY number
  `;
