import { Problem } from '../problem.ts';
import type { Sql, Tx } from '../db/client.ts';
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
 * Records kept in one part of the transaction. Each part is a lock of the database until all of it
 * ends: a part for each of twenty thousand would be more than it has.
 */
const TOGETHER = 500;

/**
 * Runs an import: no wrong row hides another, all in one transaction that is taken back where nothing
 * is to be written. The verdict is the very act, not a second opinion of it.
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
      while (rows.length < records.length) {
        const next = records.slice(rows.length, rows.length + TOGETHER);
        rows.push(...(await keepTogether(tx, next)));
      }
      written =
        mode === 'write-good' || (mode === 'write' && rows.every((row) => row.verdict !== 'fault'));
      if (!written) throw new TakenBack();
    });
  } catch (error) {
    if (!(error instanceof TakenBack)) throw error;
  }
  return reportOf(rows, passedOver, written);
}

/** A record is wrong: what was kept before it in its part is undone with it. */
class WrongRecord extends Error {
  constructor(
    readonly before: number,
    readonly report: RowReport
  ) {
    super();
  }
}

/**
 * Keeps records in one part; up to the first that is wrong where one is. What stood before that one
 * is then kept once more, without it.
 * @returns reports of as many as were worked off
 */
async function keepTogether(tx: Tx, records: readonly ImportRecord[]): Promise<RowReport[]> {
  try {
    return (await tx.savepoint((part) => keepEach(inOnePart(part), records))) as RowReport[];
  } catch (error) {
    if (!(error instanceof WrongRecord)) throw error;
    const before = await keepEach(inOnePart(tx), records.slice(0, error.before));
    return [...before, error.report];
  }
}

/** @throws WrongRecord at the first that cannot be kept */
async function keepEach(tx: Tx, records: readonly ImportRecord[]): Promise<RowReport[]> {
  const reports: RowReport[] = [];
  for (const { row, what, faults, keep } of records) {
    const wrong = (messages: string[]): RowReport => ({ row, what, verdict: 'fault', messages });
    if (faults.length > 0) {
      reports.push(wrong(faults));
      continue;
    }
    try {
      reports.push({ row, what, verdict: await keep(tx), messages: [] });
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      const { errors, title } = error;
      const messages = errors.length > 0 ? errors.map((one) => one.message) : [title];
      throw new WrongRecord(reports.length, wrong(messages));
    }
  }
  return reports;
}

/** A transaction whose parts are no parts of their own: what one of them does stands or falls with all. */
const inOnePart = (tx: Tx): Tx => {
  const flat: Tx = new Proxy(tx, {
    get: (of, name) =>
      name === 'savepoint'
        ? (work: (part: Tx) => Promise<unknown>) => work(flat)
        : Reflect.get(of, name)
  });
  return flat;
};
