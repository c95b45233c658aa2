import { numberKey } from '../../core/numbers/number.ts';
import type { Db } from '../kernel/db/client.ts';
import { listed, mapListed, type Listed } from '../kernel/db/listed.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

/** Of what the history is: a product over all places, or a place over all products. */
export type HistoryOf = { product: string } | { place: string };

/** What an event did to a product, at the place or over all of them. */
export interface HistoryRow {
  event: number;
  at: string;
  kind: string;
  document: string;
  partner: string | null;
  by: string;
  product: string;
  unit: string;
  /** One of the marks, its number where it is the only one, and how many there are. */
  mark: number;
  number: string | null;
  marks: number;
  came: string;
  went: string;
  /** What there was after it. */
  after: string;
}

/**
 * Everything that ever happened to a product or at a place, the latest first.
 * @param before an event: only what was booked before it, to go on with a list that is cut
 */
export async function readHistory(
  db: Db,
  of: HistoryOf,
  { before, most }: { before?: number | undefined; most: number }
): Promise<Listed<HistoryRow>> {
  const wanted =
    'product' in of
      ? db`m.product_id = (SELECT id FROM product WHERE upper(code) = ${numberKey(of.product)})`
      : db`v.place_id = (SELECT id FROM place WHERE upper(code) = ${numberKey(of.place)})`;
  const rows = await db<(HistoryRow & { total: number })[]>`
    WITH lines AS (
      SELECT v.event_id, m.product_id, count(DISTINCT v.mark_id)::int AS marks,
        min(v.mark_id) AS mark_id, sum(v.quantity) AS net,
        coalesce(sum(v.quantity) FILTER (WHERE v.quantity > 0), 0) AS came,
        coalesce(-sum(v.quantity) FILTER (WHERE v.quantity < 0), 0) AS went
      FROM movement v
        JOIN mark m ON m.id = v.mark_id
      WHERE ${wanted}
      GROUP BY v.event_id, m.product_id
    ),
    course AS (
      SELECT l.*, sum(l.net) OVER (PARTITION BY l.product_id ORDER BY l.event_id) AS after,
        count(*) OVER ()::int AS total
      FROM lines l
    )
    SELECT e.id AS event, to_json(e.happened_at) #>> '{}' AS at, e.kind, e.document,
      t.name AS partner, n.name AS by, p.code AS product, p.unit, c.mark_id AS mark,
      CASE WHEN c.marks = 1 THEN m.number END AS number, c.marks, c.came, c.went, c.after, c.total
    FROM course c
      JOIN event e ON e.id = c.event_id
      JOIN person n ON n.id = e.booked_by
      JOIN product p ON p.id = c.product_id
      JOIN mark m ON m.id = c.mark_id
      LEFT JOIN partner t ON t.id = e.partner_id
    ${before === undefined ? db`` : db`WHERE c.event_id < ${before}`}
    ORDER BY c.event_id DESC, p.code
    LIMIT ${most}
  `;
  return mapListed(listed(rows), (row) => ({
    ...row,
    came: trimZeros(row.came),
    went: trimZeros(row.went),
    after: trimZeros(row.after)
  }));
}
