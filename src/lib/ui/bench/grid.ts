/** A column of the number grid; `inherit` takes the row above's value in a new row. */
export interface Column { key: string; label: string; kind: 'number' | 'quantity' | 'date' | 'text'; width?: string; inherit?: boolean }
export type Row = Record<string, string>;
export interface RowVerdict { tone: 'good' | 'stop' | 'note' | 'reason'; text: string }

/** What a new row takes over from the row above. */
export const inheritedFrom = (columns: readonly Column[], above: Row | undefined): Row =>
  above ? Object.fromEntries(columns.filter((column) => column.inherit && above[column.key]).map((column) => [column.key, above[column.key]!])) : {};
