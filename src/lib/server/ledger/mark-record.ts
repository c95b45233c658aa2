import { isOnHand } from '../kernel/db/what-counts.ts';
import type { MarkRecord } from '../../core/ledger/mark-record.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import type { MarkKind, MarkState } from '../../core/catalogue/marking.ts';
import type { FactValues } from '../../core/catalogue/facts.ts';
import type { Db } from '../kernel/db/client.ts';
import { idList } from '../kernel/db/id-list.ts';

export interface MarkRecordRow {
  id: number;
  product: string;
  kind: MarkKind;
  number: string | null;
  lot: string | null;
  supplier_number: string | null;
  expires_on: string | null;
  state: MarkState;
  on_hand: string;
  /**
   * Read only where the whole record is wanted; a trace of fifty thousand marks leaves them out.
   */
  made_on?: string | null;
  retest_on?: string | null;
  facts?: FactValues;
}

/** The columns of a whole record, from mark m, product p and its lot l. */
export const recordColumns = (db: Db) =>
  db`
    m.id, p.code AS product, p.unit, m.kind, m.number, l.number AS lot, m.supplier_number, m.made_on,
      m.expires_on, m.retest_on, m.facts, m.state
  `;

/** Drops what is not there, and the zeros a numeric column pads with. */
export function asMarkRecord(row: MarkRecordRow): MarkRecord {
  const record: MarkRecord = {
    id: row.id,
    product: row.product,
    kind: row.kind,
    number: row.number,
    state: row.state,
    onHand: trimZeros(row.on_hand)
  };
  if (row.lot !== null) record.lot = row.lot;
  if (row.supplier_number !== null) record.supplierNumber = row.supplier_number;
  if (row.made_on) record.made = row.made_on;
  if (row.expires_on !== null) record.expires = row.expires_on;
  if (row.retest_on) record.retest = row.retest_on;
  if (row.facts && Object.keys(row.facts).length > 0) record.facts = row.facts;
  return record;
}

/** The same with the unit of what is on hand, where a mark is told by itself and not in a trace. */
export function withUnit(row: MarkRecordRow & { unit: string }): MarkRecord {
  const record = asMarkRecord(row);
  record.unit = row.unit;
  return record;
}

/** The records of marks, in the order of their ids as given. */
export async function readMarkRecords(db: Db, ids: readonly number[]): Promise<MarkRecord[]> {
  if (ids.length === 0) return [];
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
    FROM unnest(${idList(ids)}::text::bigint[]) WITH ORDINALITY AS w (id, at)
      JOIN mark m ON m.id = w.id
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    ORDER BY w.at
  `;
  return rows.map(withUnit);
}
