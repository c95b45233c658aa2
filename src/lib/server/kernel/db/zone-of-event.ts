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
