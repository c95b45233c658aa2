import type { Db } from '../kernel/db/client.ts';

/**
 * What came back by bookings since the scope (s) was decided: what a customer had by a shipment
 * then and has by it no more.
 */
export const cameBack = (db: Db) => db`
  greatest(
    s.quantity - coalesce(
      (
        SELECT v.quantity
        FROM sold v
        WHERE v.mark_id = s.mark_id AND v.event_id = s.event_id
      ),
        0
    ),
      0
  )
`;
