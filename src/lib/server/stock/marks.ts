import { isOnHand } from '../kernel/db/what-counts.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Db } from '../kernel/db/client.ts';
import { beginningWith } from '../kernel/db/like.ts';
import { asMarkRecord, recordColumns, type MarkRecordRow } from '../ledger/mark-record.ts';
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
  const beginning = filter.q === undefined ? null : beginningWith(numberKey(filter.q));
  const rows = await db<MarkRecordRow[]>`
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
    WHERE m.id > ${Number(filter.cursor ?? 0) || 0} ${filter.product === undefined ? db`` : db`AND upper(p.code) = ${numberKey(filter.product)}`} ${
      filter.lot === undefined
        ? db``
        : db`
      AND (
        (
          m.kind = 'lot'
            AND (
              m.number_key = ${numberKey(filter.lot)} OR m.id = ANY(${calledBefore(db, filter.lot)})
            )
        )
          OR l.number_key = ${numberKey(filter.lot)}
      )
    `
    } ${
      filter.serial === undefined
        ? db``
        : db`
      AND m.kind = 'serial'
        AND (
          m.number_key = ${numberKey(filter.serial)}
            OR m.id = ANY(${calledBefore(db, filter.serial)})
        )
    `
    } ${
      beginning === null
        ? db``
        : db`
      AND (
        m.number_key LIKE ${beginning}
          OR upper(m.supplier_number) LIKE ${beginning}
          OR m.id = ANY(${calledBefore(db, filter.q!)})
          OR upper(p.code) LIKE ${beginning}
      )
    `
    }
    ORDER BY m.id
    LIMIT ${filter.limit + 1}
  `;
  const marks = rows.slice(0, filter.limit).map(asMarkRecord);
  return rows.length > filter.limit ? { marks, next: String(marks.at(-1)!.id) } : { marks };
}

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
  const rows = await db<(MarkRecordRow & { place: string; place_id: number; quantity: string })[]>`
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
      AND (s.mark_id, s.place_id) > (${markId}, ${placeId}) ${filter.product === undefined ? db`` : db`AND upper(p.code) = ${numberKey(filter.product)}`} ${filter.place === undefined ? db`` : db`AND upper(c.code) = ${numberKey(filter.place)}`}
    ORDER BY s.mark_id, s.place_id
    LIMIT ${filter.limit + 1}
  `;
  const page = rows.slice(0, filter.limit);
  const last = page.at(-1);
  const answer = page.map((row) => ({
    mark: asMarkRecord(row),
    place: row.place,
    quantity: trimZeros(row.quantity)
  }));
  return rows.length > filter.limit && last
    ? { rows: answer, next: `${last.id}-${last.place_id}` }
    : { rows: answer };
}
