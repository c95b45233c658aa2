import type { MarkKind, MarkState } from '../../core/ledger/snapshot.ts';
import { formatQuantity, quantity } from '../../core/quantity/quantity.ts';
import type { Db } from '../db/client.ts';

/** One lot, serial or bulk mark as the API and the screens show it. Quantities are decimal strings. */
export interface MarkRecord {
  id: number;
  product: string;
  kind: MarkKind;
  number: string | null;
  lot?: string;
  supplierNumber?: string;
  expires?: string;
  state: MarkState;
  onHand: string;
}

export interface MarkRecordRow {
  id: number; product: string; kind: MarkKind; number: string | null; lot: string | null; supplier_number: string | null;
  expires_on: string | null; state: MarkState; on_hand: string;
}

/** Drops what is not there, and the zeros a numeric column pads with. */
export function asMarkRecord(row: MarkRecordRow): MarkRecord {
  const record: MarkRecord = { id: row.id, product: row.product, kind: row.kind, number: row.number, state: row.state, onHand: trimZeros(row.on_hand) };
  if (row.lot !== null) record.lot = row.lot;
  if (row.supplier_number !== null) record.supplierNumber = row.supplier_number;
  if (row.expires_on !== null) record.expires = row.expires_on;
  return record;
}

/** `"12.500000"` → `"12.5"`; quick, as it runs for every row of an answer. */
export const trimZeros = (numeric: string): string => (numeric.includes('.') ? numeric.replace(/\.?0+$/, '') : numeric) || formatQuantity(quantity(numeric));

/** The records of marks, in the order of their ids as given. */
export async function readMarkRecords(db: Db, ids: readonly number[]): Promise<MarkRecord[]> {
  if (ids.length === 0) return [];
  const rows = await db<MarkRecordRow[]>`
    SELECT m.id, p.code AS product, m.kind, m.number, l.number AS lot, m.supplier_number, m.expires_on, m.state,
      coalesce((SELECT sum(s.quantity) FROM stock s WHERE s.mark_id = m.id AND s.quantity > 0), 0) AS on_hand
    FROM unnest(${ids as number[]}::bigint[]) WITH ORDINALITY AS w (id, at)
    JOIN mark m ON m.id = w.id JOIN product p ON p.id = m.product_id LEFT JOIN mark l ON l.id = m.lot_id ORDER BY w.at`;
  return rows.map(asMarkRecord);
}
