/** A list as a screen shows it: what is printed or saved of it is this and no other. */
export interface ShownList {
  /** What stands above it. */
  title: string;
  /** Its headings; one that is empty is of a list without any. */
  columns: readonly string[];
  rows: readonly (readonly string[])[];
  /** What the screen says of what is not listed; empty where everything is. */
  note: string;
}

/** Most rows and columns of a list that is printed or saved. */
export const MOST_LISTED = { rows: 20_000, columns: 40 };

/**
 * The same without columns that say nothing: those of ticks and buttons have neither heading nor
 * text. At least one is left.
 */
export function withoutEmpty(list: ShownList): ShownList {
  const says = (at: number): boolean =>
    list.columns[at]?.trim() !== '' || list.rows.some((row) => (row[at] ?? '') !== '');
  const kept = list.columns.map((_, at) => at).filter(says);
  if (kept.length === 0 || kept.length === list.columns.length) return list;
  return {
    ...list,
    columns: kept.map((at) => list.columns[at]!),
    rows: list.rows.map((row) => kept.map((at) => row[at] ?? ''))
  };
}

/** Rows of a further page under those of the pages before; nothing where it is another table. */
export function goneOn(list: ShownList, next: ShownList | undefined): ShownList | null {
  if (!next || next.columns.join('\n') !== list.columns.join('\n')) return null;
  return { ...next, title: list.title, rows: [...list.rows, ...next.rows] };
}
