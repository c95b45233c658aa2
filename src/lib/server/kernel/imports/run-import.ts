import { Problem } from '../problem.ts';
import { within, type Sql, type Tx } from '../db/client.ts';
import { reportOf, type ImportMode, type ImportReport, type RowReport } from './report.ts';

/** One record of a file: the row it begins on, what it is called, and what keeps it. */
export interface ImportRecord {
  row: number;
  what: string;
  /** Faults found while reading, before anything is asked of the database. */
  faults: string[];
  keep: (tx: Tx) => Promise<'new' | 'changed' | 'same'>;
}

/** Thrown to take a trial run back. */
export class TakenBack extends Error {}

/**
 * Runs an import: every record in a part of its own, so that one wrong row hides no other, all in
 * one transaction that is taken back where nothing is to be written. The verdict is the very act,
 * not a second opinion of it.
 */
export async function runImport(
  sql: Sql,
  records: readonly ImportRecord[],
  passedOver: string[],
  mode: ImportMode
): Promise<ImportReport> {
  const rows: RowReport[] = [];
  let written = false;
  try {
    await sql.begin(async (tx) => {
      for (const record of records) rows.push(await keepOne(tx, record));
      written =
        mode === 'write-good' || (mode === 'write' && rows.every((row) => row.verdict !== 'fault'));
      if (!written) throw new TakenBack();
    });
  } catch (error) {
    if (!(error instanceof TakenBack)) throw error;
  }
  return reportOf(rows, passedOver, written);
}

async function keepOne(tx: Tx, { row, what, faults, keep }: ImportRecord): Promise<RowReport> {
  if (faults.length > 0) return { row, what, verdict: 'fault', messages: faults };
  try {
    return { row, what, verdict: await within(tx, keep), messages: [] };
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    return {
      row,
      what,
      verdict: 'fault',
      messages: error.errors.length > 0 ? error.errors.map((one) => one.message) : [error.title]
    };
  }
}
