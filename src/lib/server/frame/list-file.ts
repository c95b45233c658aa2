import { company } from '../catalogue/company.ts';
import type { ShownList } from '../../core/tables/shown-list.ts';
import type { Db } from '../kernel/db/client.ts';
import { shownListPdf, type PrintedList } from './papers/shown-list.ts';

/** A list as a screen shows it, as a paper. @param who asks for it, as the paper says */
export async function listPaper(
  db: Db,
  list: Omit<PrintedList, 'own' | 'who'>,
  who: string,
  now: Date
): Promise<Uint8Array> {
  const own = await company(db);
  return shownListPdf({ ...list, own: own.name, who }, now);
}

/** The same as columns and rows of a table; what is said of it stands below. */
export function listTable({ columns, rows, note }: ShownList): {
  columns: { key: string; says: string }[];
  rows: Record<string, string>[];
} {
  const table = rows.map((row) => Object.fromEntries(row.map((cell, at) => [String(at), cell])));
  return {
    columns: columns.map((says, at) => ({ key: String(at), says })),
    rows: note === '' ? table : [...table, { '0': note }]
  };
}
