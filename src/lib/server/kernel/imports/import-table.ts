import type { TableColumn } from '../../../core/tables/headings.ts';
import { groupBy } from '../../../core/group-by.ts';
import type { Sql, Tx } from '../db/client.ts';
import { readTable, type TableRow } from '../tables/read-table.ts';
import type { ImportMode, ImportReport } from './report.ts';
import { runImport } from './run-import.ts';

export type Kept = 'new' | 'changed' | 'same';

/** How a table of one kind of record is read and kept. */
export interface ImportedTable {
  columns: readonly TableColumn[];
  /** The column that names a record, and what it is called where it is missing. */
  key: string;
  /** Several rows may make one record; otherwise a name stands once. */
  rows: 'one' | 'many';
  /** Keeps one record; what is wrong with it is thrown as a Problem. */
  keep: (tx: Tx, name: string, rows: readonly TableRow[]) => Promise<Kept>;
}

/**
 * Reads a table from a file and reports record by record; writes only where the mode says so.
 * @throws Problem 413, 422 for the file as a whole
 */
export async function importTable(
  sql: Sql,
  file: Uint8Array,
  mode: ImportMode,
  { columns, key, rows: many, keep }: ImportedTable
): Promise<ImportReport> {
  const { rows, passedOver } = await readTable(file, columns);
  const says = columns.find((column) => column.key === key)!.says;
  const byName = (row: TableRow) => (row.cells[key] ?? '').toUpperCase();
  const records = many === 'many' ? [...groupBy(rows, byName).values()] : rows.map((row) => [row]);
  const first = new Map<string, number>();
  return runImport(
    sql,
    records.map((of) => {
      const { row, cells } = of[0]!;
      const name = cells[key] ?? '';
      const before = first.get(name.toUpperCase());
      first.set(name.toUpperCase(), before ?? row);
      const faults = name === '' ? [`The ${says} is missing.`] : [];
      if (name !== '' && before !== undefined)
        faults.push(`${name} stands on row ${before} already. Take one of the two out.`);
      return { row, what: name || `without ${says}`, faults, keep: (tx) => keep(tx, name, of) };
    }),
    passedOver,
    mode
  );
}

/** Whether a cell says yes; what was kept before where the file does not have the column. */
export const saysYes = (cell: string | undefined, before: boolean): boolean =>
  cell === undefined ? before : /^(yes|y|true|1|x)$/i.test(cell.trim());

/** Parts of a cell, with semicolons between. */
export const partsOf = (cell: string | undefined): string[] =>
  (cell ?? '')
    .split(';')
    .map((part) => part.trim())
    .filter(Boolean);

/** A cell, or null where it is empty or the column is not there. */
export const orNull = (cell: string | undefined): string | null => cell?.trim() || null;
