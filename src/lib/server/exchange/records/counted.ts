import type { RecordsRead } from './asked.ts';

type Row = Record<string, string>;

/** A row of a statement that says with each how many there are. */
export type CountedRow = Row & { total: number };

/** Rows apart from how many there are. @param say what is said of a row, where not all as it stands */
export const counted = (
  rows: readonly CountedRow[],
  say: (row: Row) => Row = (row) => row
): RecordsRead => ({
  rows: rows.map(({ total: _, ...row }) => say(row as Row)),
  total: rows[0]?.total ?? 0
});
