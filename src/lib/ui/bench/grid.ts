import type { TableColumn } from '../../core/tables/headings.ts';

/**
 * A column of the number grid; `inherit` takes the row above's value in a new row, `must` is marked
 * as needed.
 */
export interface Column {
  key: string;
  label: string;
  kind: 'number' | 'quantity' | 'date' | 'text' | 'choice';
  width?: string;
  /** Of a date: a month alone means its last day, as on goods that expire. */
  monthEnds?: boolean;
  inherit?: boolean;
  must?: boolean;
  choices?: readonly string[];
  also?: readonly string[];
}
export type Row = Record<string, string>;
export interface RowVerdict {
  tone: 'good' | 'stop' | 'note' | 'reason';
  text: string;
}

/** What a new row takes over from the row above. */
export const inheritedFrom = (columns: readonly Column[], above: Row | undefined): Row =>
  above
    ? Object.fromEntries(
        columns
          .filter((column) => column.inherit && above[column.key])
          .map((column) => [column.key, above[column.key]!])
      )
    : {};

/** The columns as a pasted table's headings may call them. */
export const asTableColumns = (columns: readonly Column[]): TableColumn[] =>
  columns.map((column) => ({ key: column.key, says: column.label, also: column.also }));

const ORDER: Record<RowVerdict['tone'], number> = { stop: 0, reason: 1, note: 2, good: 3 };

/** The rows with what is wrong first; rows alike stay in their order. */
export const faultsFirst = (
  rows: readonly Row[],
  verdicts: ReadonlyMap<number, RowVerdict>
): Row[] =>
  rows
    .map((row, at) => ({ row, at, rank: ORDER[verdicts.get(at)?.tone ?? 'good'] }))
    .sort((a, b) => a.rank - b.rank || a.at - b.at)
    .map(({ row }) => row);
