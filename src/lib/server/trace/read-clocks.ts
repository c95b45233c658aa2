import type { Clock } from '../../core/trace/clock.ts';
import type { Db } from '../kernel/db/client.ts';

/** Both clocks of events. */
export async function readClocks(db: Db, events: readonly number[]): Promise<Map<number, Clock>> {
  const rows = await db<{ id: number; happened: string }[]>`
    SELECT id, (extract(epoch FROM happened_at) * 1000000)::bigint::text AS happened
    FROM event
    WHERE id = ANY(${[...new Set(events)]})
  `;
  return new Map(rows.map((row) => [row.id, { happened: Number(row.happened), booked: row.id }]));
}
