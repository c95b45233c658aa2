import type { CountLine } from '../../../core/stock/count-line.ts';
import type { Db } from '../../kernel/db/client.ts';
import { listed, mapListed, type Listed } from '../../kernel/db/listed.ts';
import { trimZeros } from '../../kernel/quantity-text.ts';
import { isHidden, type CountHead } from './count-head.ts';

/** Most lines of a count that are read; whoever shows them says where there are more. */
const LISTED = 20_000;

/**
 * What a count has to count and what was found of it: all that lies in its scope now, and all that
 * was entered, place by place. Of a blind one that is open without the serials nobody named, as a
 * list of what should be there is an expected figure too.
 * @param which only what was not as the ledger said when it was counted
 */
export async function readCountLines(
  db: Db,
  head: CountHead,
  which: 'all' | 'off' = 'all'
): Promise<Listed<CountLine>> {
  const rows = await db<(CountLine & { total: number })[]>`
    WITH here AS (
      SELECT s.place_id, m.product_id, m.kind, m.number_key, m.id AS mark_id, s.quantity
      FROM count_place c
        JOIN stock s ON s.place_id = c.place_id AND s.quantity > 0
        JOIN mark m ON m.id = s.mark_id
      WHERE c.count_id = ${head.id} AND ${inScope(db, head)}
    )
    SELECT p.code AS product, p.name, p.unit, c.code AS place,
      coalesce(h.kind, e.kind) AS kind,
      CASE coalesce(h.kind, e.kind)
        WHEN 'lot' THEN coalesce(m.number, e.number)
        WHEN 'serial' THEN coalesce(l.number, e.lot)
      END AS lot,
      CASE coalesce(h.kind, e.kind) WHEN 'serial' THEN coalesce(m.number, e.number) END AS serial,
      m.id AS mark, coalesce(h.quantity, 0) AS expected, e.counted, e.seen, w.name AS by,
      to_json(e.counted_at) #>> '{}' AS at,
      (
        SELECT x.code
        FROM stock s
          JOIN place x ON x.id = s.place_id
        WHERE s.mark_id = m.id AND s.quantity > 0 AND m.kind = 'serial' AND x.id <> c.id
        LIMIT 1
      ) AS elsewhere,
      count(*) OVER ()::int AS total
    FROM here h
      FULL JOIN (
        SELECT *
        FROM count_standing
        WHERE count_id = ${head.id} AND counted IS NOT NULL
      ) e
        ON e.place_id = h.place_id
          AND e.product_id = h.product_id
          AND e.kind = h.kind
          AND coalesce(e.number_key, '') = coalesce(h.number_key, '')
      JOIN place c ON c.id = coalesce(h.place_id, e.place_id)
      JOIN product p ON p.id = coalesce(h.product_id, e.product_id)
      LEFT JOIN mark m ON m.id = coalesce(h.mark_id, ${namedBy(db)})
      LEFT JOIN mark l ON l.id = m.lot_id
      LEFT JOIN person w ON w.id = e.counted_by
    WHERE ${isHidden(head) ? db`(e.counted IS NOT NULL OR h.kind <> 'serial')` : db`true`}
      AND ${which === 'off' ? db`e.counted <> e.seen` : db`true`}
    ORDER BY c.code, p.code, l.number_key NULLS FIRST, m.number_key, e.number_key
    LIMIT ${LISTED}
  `;
  return mapListed(listed(rows), (row) => ({
    ...row,
    expected: trimZeros(row.expected),
    counted: row.counted === null ? null : trimZeros(row.counted),
    seen: row.seen === null ? null : trimZeros(row.seen)
  }));
}

/** Whether a mark `m` is of what a count counts. */
export function inScope(db: Db, { id, products }: CountHead) {
  if (products.length === 0) return db`true`;
  return db`
    EXISTS (
      SELECT
      FROM count_product w
      WHERE w.count_id = ${id}
        AND w.product_id = m.product_id
        AND (w.lot_id IS NULL OR w.lot_id IN (m.id, m.lot_id))
    )
  `;
}

/** The mark an entry `e` names, found by index whatever the tables' statistics say. */
const namedBy = (db: Db) => db`
  CASE e.kind
    WHEN 'bulk' THEN (
      SELECT n.id FROM mark n WHERE n.product_id = e.product_id AND n.kind = 'bulk'
    )
    ELSE (
      SELECT n.id
      FROM mark n
      WHERE n.product_id = e.product_id AND n.kind = e.kind AND n.number_key = e.number_key
    )
  END
`;

/**
 * Whether a mark `m` at the place `s.place_id` has no entry in a count. Said by NOT IN, which is
 * hashed always: with the statistics of a new table an anti join compares each with each.
 */
export const isNotEntered = (db: Db, count: number) => db`
  (s.place_id, m.product_id, m.kind, coalesce(m.number_key, '')) NOT IN (
    SELECT e.place_id, e.product_id, e.kind, coalesce(e.number_key, '')
    FROM count_standing e
    WHERE e.count_id = ${count} AND e.counted IS NOT NULL
  )
`;
