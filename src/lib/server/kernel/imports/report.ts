import { Problem } from '../problem.ts';

/** What an import says of one record of the file, before anything is written. */
export interface RowReport {
  row: number;
  what: string;
  verdict: 'new' | 'changed' | 'same' | 'fault';
  messages: string[];
}

export interface ImportReport {
  rows: RowReport[];
  counts: Record<RowReport['verdict'], number>;
  /** Headings of the file that are no column of ours. */
  passedOver: string[];
  /** Whether the good rows were written. */
  written: boolean;
}

export function reportOf(rows: RowReport[], passedOver: string[], written: boolean): ImportReport {
  const counts = { new: 0, changed: 0, same: 0, fault: 0 };
  for (const row of rows) counts[row.verdict]++;
  return { rows, counts, passedOver, written };
}

/**
 * `check` writes nothing; `write` writes all or, where a row is wrong, nothing; `write-good` leaves
 * the wrong rows out.
 */
export type ImportMode = 'check' | 'write' | 'write-good';

/** Cells that do not have the form they should, as a problem of their row. */
export const badCells = (
  issues: readonly { path: readonly PropertyKey[]; message: string }[]
): Problem =>
  new Problem(
    422,
    'The row cannot be read',
    issues.map((issue) => ({
      code: 'request.malformed',
      path: issue.path.join('.'),
      message: `${issue.path.join(' ') || 'The row'}: ${issue.message}.`
    }))
  );
