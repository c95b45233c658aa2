import type { MarkKind } from '../../core/catalogue/marking.ts';
import type { Db } from '../kernel/db/client.ts';

/** A booking that by its date took what was not here yet, and somebody went on in spite of it. */
export interface TooEarly {
  id: number;
  kind: MarkKind;
  number: string | null;
  product: string;
  unit: string;
  since: string;
  /** The event, by its id. */
  amount: string;
  says: string;
  total: number;
}

/** Those that were not taken back, the oldest first: the first two hundred, and how many. */
export const readTooEarly = (db: Db): Promise<TooEarly[]> => db<TooEarly[]>`
  SELECT m.id, m.kind, m.number, m.product, m.unit, e.happened_at::date AS since,
    e.id::text AS amount, r.message AS says, count(*) OVER ()::int AS total
  FROM booking_remark r
    JOIN event e ON e.id = r.event_id
    CROSS JOIN LATERAL (
      SELECT m.id, m.kind, m.number, p.code AS product, p.unit
      FROM movement v
        JOIN mark m ON m.id = v.mark_id
        JOIN product p ON p.id = m.product_id
      WHERE v.event_id = e.id AND r.number IN (m.number, p.code)
      LIMIT 1
    ) m
  WHERE r.code = 'time.order' AND NOT EXISTS (SELECT FROM event b WHERE b.reverses_id = e.id)
  ORDER BY e.happened_at, r.id
  LIMIT 200
`;
