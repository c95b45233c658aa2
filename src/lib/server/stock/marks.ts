import { isOnHand } from '../kernel/db/what-counts.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Db } from '../kernel/db/client.ts';
import { beginningWith } from '../kernel/db/like.ts';
import { recordColumns, withUnit, type MarkRecordRow } from '../ledger/mark-record.ts';
import { type MarkRecord } from '../../core/ledger/mark-record.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

export interface MarkFilter {
  product?: string;
  lot?: string;
  serial?: string;
  q?: string;
  cursor?: string;
  limit: number;
}

/**
 * Marks by product, lot, serial or the beginning of a number (ours or the supplier's), in order of
 * their ids.
 * `lot` finds the lot and the serials within it. Keyset paging: `next` is the cursor of the
 * following page.
 */
export async function findMarks(
  db: Db,
  filter: MarkFilter
): Promise<{ marks: MarkRecord[]; next?: string }> {
  const after = Number(filter.cursor ?? 0) || 0;
  const product = filter.product === undefined ? null : await idOfProduct(db, filter.product);
  const rows = await db<(MarkRecordRow & { unit: string })[]>`
    SELECT ${recordColumns(db)},
      coalesce(
        (
          SELECT sum(s.quantity)
          FROM stock s
          WHERE s.mark_id = m.id AND s.quantity > 0 AND ${isOnHand(db, db`s.place_id`)}
        ),
          0
      ) AS on_hand
    FROM mark m
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE m.id > ${after}
      ${product === null ? db`` : db`AND m.product_id = ${product}`}
      ${filter.lot === undefined ? db`` : db`AND m.id IN (${ofLot(db, filter.lot)})`}
      ${filter.serial === undefined ? db`` : db`AND m.id IN (${ofSerial(db, filter.serial)})`}
      ${filter.q === undefined ? db`` : db`AND m.id IN (${beginning(db, filter.q, after, filter.limit)})`}
    ORDER BY m.id
    LIMIT ${filter.limit + 1}
  `;
  const marks = rows.slice(0, filter.limit).map(withUnit);
  return rows.length > filter.limit ? { marks, next: String(marks.at(-1)!.id) } : { marks };
}

/** The product’s id, or one that no product has: as a number, so that the planner knows how many. */
async function idOfProduct(db: Db, code: string): Promise<number> {
  const [row] = await db<{ id: number }[]>`
    SELECT id FROM product WHERE upper(code) = ${numberKey(code)}
  `;
  return row?.id ?? 0;
}

/** A lot by its number or one it had before, and the serials within it. */
const ofLot = (db: Db, number: string) => {
  const lots = db`
    SELECT id FROM mark WHERE kind = 'lot' AND number_key = ${numberKey(number)}
  `;
  return db`
    ${lots}
    UNION ALL
    SELECT id FROM mark WHERE kind = 'lot' AND id = ANY(${calledBefore(db, number)})
    UNION ALL
    SELECT id FROM mark WHERE lot_id IN (${lots})
  `;
};

const ofSerial = (db: Db, number: string) => db`
  SELECT id FROM mark WHERE kind = 'serial' AND number_key = ${numberKey(number)}
  UNION ALL
  SELECT id FROM mark WHERE kind = 'serial' AND id = ANY(${calledBefore(db, number)})
`;

/**
 * Marks whose number, the supplier’s or the product’s code begins so: each way by its index, and of
 * each no more than a page.
 */
const beginning = (db: Db, text: string, after: number, limit: number) => {
  const pattern = beginningWith(numberKey(text));
  const page = (where: ReturnType<Db>) => db`
    (
      SELECT id
      FROM (SELECT id FROM mark WHERE ${where} OFFSET 0) found
      WHERE id > ${after}
      ORDER BY id
      LIMIT ${limit + 1}
    )
  `;
  return db`
    ${page(db`number_key LIKE ${pattern}`)}
    UNION ALL
    ${page(db`upper(supplier_number) LIKE ${pattern}`)}
    UNION ALL
    ${page(db`product_id IN (SELECT id FROM product WHERE upper(code) LIKE ${pattern})`)}
    UNION ALL
    SELECT unnest(${calledBefore(db, text)})
  `;
};

export interface StockFilter {
  product?: string;
  place?: string;
  cursor?: string;
  limit: number;
}
export interface StockRow {
  mark: MarkRecord;
  place: string;
  quantity: string;
}

/** Marks that were called so before an amendment, by our number or the supplier's, as an array. */
export const calledBefore = (db: Db, number: string) =>
  db`
    ARRAY(
      SELECT c.mark_id
      FROM mark_change c
      WHERE c.field IN ('number', 'supplier_number')
        AND c.old_value IS NOT NULL
        AND upper(c.old_value) = ${numberKey(number)}
    )
  `;

/** What is on hand, mark by mark and place by place, by keyset over (mark, place). */
export async function readStockRows(
  db: Db,
  filter: StockFilter
): Promise<{ rows: StockRow[]; next?: string }> {
  const [markId = 0, placeId = 0] = (filter.cursor ?? '')
    .split('-')
    .map((part) => Number(part) || 0);
  const product = filter.product === undefined ? null : await idOfProduct(db, filter.product);
  const rows = await db<
    (MarkRecordRow & { unit: string; place: string; place_id: number; quantity: string })[]
  >`
    SELECT ${recordColumns(db)}, c.code AS place, s.place_id, s.quantity,
      (
        SELECT sum(a.quantity)
        FROM stock a
        WHERE a.mark_id = m.id AND a.quantity > 0 AND ${isOnHand(db, db`a.place_id`)}
      ) AS on_hand
    FROM stock s
      JOIN mark m ON m.id = s.mark_id
      JOIN product p ON p.id = m.product_id
      JOIN place c ON c.id = s.place_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE s.quantity > 0
      AND c.kind <> 'transit'
      AND (s.mark_id, s.place_id) > (${markId}, ${placeId})
      ${product === null ? db`` : db`AND s.product_id = ${product}`}
      ${filter.place === undefined ? db`` : db`AND upper(c.code) = ${numberKey(filter.place)}`}
    ORDER BY s.mark_id, s.place_id
    LIMIT ${filter.limit + 1}
  `;
  const page = rows.slice(0, filter.limit);
  const last = page.at(-1);
  const answer = page.map((row) => ({
    mark: withUnit(row),
    place: row.place,
    quantity: trimZeros(row.quantity)
  }));
  return rows.length > filter.limit && last
    ? { rows: answer, next: `${last.id}-${last.place_id}` }
    : { rows: answer };
}
