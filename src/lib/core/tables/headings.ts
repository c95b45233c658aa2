/**
 * A column a table may have: its name, other words for it, and whether there is no table without
 * it.
 */
export interface TableColumn {
  key: string;
  says: string;
  also?: readonly string[];
  required?: boolean;
}

/**
 * How two headings are compared: letters and digits only, without capitals, so that `Shelf life
 * (days)` is `shelf-life days`.
 */
export const headingKey = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();

export type HeadingReading =
  | {
      ok: true;
      /** The column of each cell; null where the heading is not one of ours. */ columns: (
        string | null
      )[];
      unknown: string[];
    }
  | { ok: false; missing: string[]; twice: string[] };

/**
 * Finds which cell belongs to which column, by the first row. Headings that are not ours are passed
 * over and named.
 */
export function readHeadings(
  first: readonly string[],
  columns: readonly TableColumn[]
): HeadingReading {
  const names = new Map(
    columns.flatMap((column) =>
      [column.says, column.key, ...(column.also ?? [])].map((name) => [
        headingKey(name),
        column.key
      ])
    )
  );
  const found = first.map((cell) => names.get(headingKey(cell)) ?? null);
  const missing = columns
    .filter((column) => column.required && !found.includes(column.key))
    .map((column) => column.says);
  const twice = columns
    .filter((column) => found.filter((key) => key === column.key).length > 1)
    .map((column) => column.says);
  if (missing.length > 0 || twice.length > 0) return { ok: false, missing, twice };
  return {
    ok: true,
    columns: found,
    unknown: first.filter((cell, at) => found[at] === null && cell.trim() !== '')
  };
}

/**
 * Whether a pasted first row is headings and not goods: one cell that is the name of a column is
 * enough, for no goods are numbered *Serial*.
 */
export function looksLikeHeadings(
  first: readonly string[],
  columns: readonly TableColumn[]
): boolean {
  const names = new Set(
    columns.flatMap((column) => [column.says, column.key, ...(column.also ?? [])].map(headingKey))
  );
  return first.some((cell) => headingKey(cell) !== '' && names.has(headingKey(cell)));
}
