import type { BookedAgainst } from '../../core/ledger/booked-against.ts';
import type { Db } from '../kernel/db/client.ts';
import { listed, mapListed, type Listed } from '../kernel/db/listed.ts';

/**
 * Everything that was booked against an order, the latest first: the first fifty events, and how
 * many there are. What a build used is in it, and told by what it made.
 */
export async function readBookedAgainst(db: Db, orderId: number): Promise<Listed<BookedAgainst>> {
  const rows = await db<(Omit<BookedAgainst, 'at'> & { at: Date; total: number })[]>`
    SELECT e.id, e.kind, paper_number(e.id) AS paper, e.reference, e.happened_at AS at,
      w.name AS who, count(*) OVER ()::int AS total,
      EXISTS (SELECT FROM event b WHERE b.reverses_id = e.id) AS "takenBack",
      coalesce(g.marks, 0) AS marks, coalesce(g.first, '[]') AS first,
      ARRAY(
        SELECT c.number FROM certificate c WHERE c.event_id = e.id ORDER BY c.number
      ) AS certificates
    FROM event e
      JOIN person w ON w.id = e.booked_by
      LEFT JOIN LATERAL (${marksOfEvent(db)}) g ON true
    WHERE e.order_id = ${orderId} AND e.kind <> 'station'
    ORDER BY e.happened_at DESC, e.id DESC
    LIMIT 50
  `;
  return mapListed(listed(rows), ({ at, ...row }) => ({ ...row, at: at.toISOString() }));
}

/** The marks an event (e) is about: of a build what it made, of a packing what went in. */
const marksOfEvent = (db: Db) => db`
  SELECT count(*)::int AS marks,
    json_agg(
      json_build_object('id', n.id, 'number', n.number, 'product', n.product) ORDER BY n.at
    ) FILTER (WHERE n.at <= 4) AS first
  FROM (
    SELECT m.id, m.number, p.code AS product, row_number() OVER (ORDER BY m.id) AS at
    FROM (
      SELECT v.mark_id
      FROM movement v
      WHERE v.event_id = e.id AND (e.kind <> 'build' OR v.quantity > 0)
      UNION
      SELECT k.mark_id
      FROM packing k
      WHERE k.event_id = e.id AND k.mark_id IS NOT NULL
    ) x
      JOIN mark m ON m.id = x.mark_id
      JOIN product p ON p.id = m.product_id
  ) n
`;
