import { readHeadings, type TableColumn } from '../../../core/tables/headings.ts';
import { shown } from '../../../core/numbers/number.ts';
import { mapInStretches } from '../let-others-in.ts';
import { readLinesApart } from './read-lines-apart.ts';
import type { Line } from './read-lines.ts';
import { MOST_TABLE_ROWS, tooManyRows } from './table-limits.ts';
import { unreadableTable } from './unreadable-table.ts';

/** Largest file taken. */
export const MOST_BYTES = 5_000_000;

export interface TableRow {
  /** Row in the file, the headings being row 1. */ row: number;
  cells: Record<string, string>;
}
export interface Table {
  rows: TableRow[];
  /** Headings that are no column of ours. */ passedOver: string[];
}

/**
 * Reads a table with headings from CSV (comma, semicolon or tab; UTF-8 with or without mark) or
 * from the first sheet of an XLSX file.
 * Numbers keep the digits they have in the file, dates become `YYYY-MM-DD`.
 * @throws Problem 413 where it is too large, 422 where it cannot be read or a column is missing
 */
export async function readTable(file: Uint8Array, columns: readonly TableColumn[]): Promise<Table> {
  if (file.length > MOST_BYTES)
    throw unreadableTable(
      `It has ${Math.ceil(file.length / 1e6)} MB; 5 MB are the most. Send it in parts.`,
      413
    );
  const lines = await readLinesApart(file);
  const head = lines.find((line) => line.cells.some((cell) => cell !== ''));
  if (!head)
    throw unreadableTable(
      'It has no rows. The first row names the columns, every further one is a record.'
    );
  const reading = readHeadings(head.cells, columns);
  if (!reading.ok) {
    const faults = [
      ...(reading.missing.length > 0
        ? [`the column ${reading.missing.join(' and the column ')} is missing`]
        : []),
      ...reading.twice.map((name) => `the column ${name} stands twice`)
    ];
    throw unreadableTable(
      `In its first row ${faults.join(', and ')}. It has: ${shown(head.cells.filter(Boolean).join(', ')) || 'nothing'}. The columns it may have are: ${columns.map((column) => column.says).join(', ')}.`
    );
  }
  const rows = lines
    .slice(lines.indexOf(head) + 1)
    .filter((line) => line.cells.some((cell) => cell !== ''));
  if (rows.length > MOST_TABLE_ROWS) throw unreadableTable(tooManyRows());
  return { passedOver: reading.unknown, rows: await keyed(rows, reading.columns) };
}

/** The rows by their columns' keys; what stands in a column that is none of ours is left out. */
function keyed(lines: readonly Line[], columns: readonly (string | null)[]): Promise<TableRow[]> {
  const places = columns.flatMap((key, at) => (key === null ? [] : [{ key, at }]));
  return mapInStretches(lines, ({ row, cells }) => {
    const named: TableRow['cells'] = {};
    for (const { key, at } of places) named[key] = cells[at] ?? '';
    return { row, cells: named };
  });
}
