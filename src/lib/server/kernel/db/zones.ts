import type { Db } from './client.ts';

/** The zone an event (alias e) is told in: that of the site it moved something at; null for none. */
export const zoneOfEvent = (db: Db): ReturnType<Db> => db`
  (
    SELECT s.zone
    FROM movement v
      JOIN place c ON c.id = v.place_id
      JOIN site s ON s.id = c.site_id
    WHERE v.event_id = e.id
    LIMIT 1
  )
`;

/** The zone of the first site, in which what belongs to none is told; UTC where there is no site. */
export const firstZone = (db: Db): ReturnType<Db> => db`
  coalesce((SELECT zone FROM site ORDER BY id LIMIT 1), 'UTC')
`;

/** The same by itself. */
export async function readFirstZone(db: Db): Promise<string> {
  const [row] = await db<[{ zone: string }]>`SELECT ${firstZone(db)} AS zone`;
  return row.zone;
}
