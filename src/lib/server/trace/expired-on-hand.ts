import type { Db } from '../kernel/db/client.ts';
import { expiryOf, isFreePlace, stateOf } from '../kernel/db/what-counts.ts';
import { MOST_LISTED, type LooseRow } from './loose-row.ts';

/** What is past its date, still here and free to be used. @param day today, `YYYY-MM-DD` */
export const readExpiredOnHand = (db: Db, day: string): Promise<LooseRow[]> => db<LooseRow[]>`
  SELECT m.id, m.kind, m.number, p.code AS product, p.unit,
    ${expiryOf(db)} AS since, sum(s.quantity) AS amount,
    count(*) OVER ()::int AS total
  FROM stock s
    JOIN mark m ON m.id = s.mark_id
    JOIN product p ON p.id = m.product_id
    LEFT JOIN mark l ON l.id = m.lot_id
  WHERE s.quantity > 0
    AND ${isFreePlace(db, db`s.place_id`)}
    AND ${expiryOf(db)} < ${day}
    AND ${stateOf(db)} = 'usable'
  GROUP BY m.id, p.code, p.unit, l.expires_on
  ORDER BY 6, m.number_key
  LIMIT ${MOST_LISTED}
`;
