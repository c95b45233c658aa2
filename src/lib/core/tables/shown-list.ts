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

/**
 * What a file takes of a list, which says so where that is not all.
 * @param goesOn more follows on pages that were not read
 */
export function atMost(list: ShownList, goesOn = false): ShownList {
  const most = MOST_LISTED.rows;
  if (list.rows.length <= most && !goesOn) return list;
  const note = `The first ${most} are listed; narrow it for the rest.`;
  return { ...list, rows: list.rows.slice(0, most), note };
}

/**
 * A list with the rows of a further page of it: of what that page shows, what has the same title and
 * headings. Null where nothing has.
 */
export function goneOn(list: ShownList, page: readonly ShownList[]): ShownList | null {
  const headings = list.columns.join('\n');
  const next = page.find((one) => one.title === list.title && one.columns.join('\n') === headings);
  return next ? { ...next, rows: [...list.rows, ...next.rows] } : null;
}
