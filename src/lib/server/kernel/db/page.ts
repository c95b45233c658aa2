import type { Db } from './client.ts';
import type { Listed } from './listed.ts';

/** What of a list is asked for: those that hold a text, the page after a code. */
export interface PageAsked {
  q?: string;
  /** The last code of the page before; empty for the first page. */
  after?: string;
}

/** A page of a list by code, how many there are on all pages, and whether more come after it. */
export interface Page<T> extends Listed<T> {
  more: boolean;
}

/** What a list by code is of. */
export interface ListOf {
  /** What they are read from, the table whose code they go by as `p`. */
  from: ReturnType<Db>;
  /** Which of them the list has. */
  where: ReturnType<Db>;
}

interface List extends ListOf {
  /** What is shown of each. */
  columns: ReturnType<Db>;
  /** The code the page comes after. */
  after: string;
  /** Rows of a page. */
  most: number;
}

/** Reads a page of a list by code: what is shown is computed for its rows alone. */
export async function readPage<T extends object>(db: Db, list: List): Promise<Page<T>> {
  const [page, total] = await Promise.all([rowsOfPage<T>(db, list), countList(db, list)]);
  return { ...page, total };
}

/** The rows of a page, without how many there are on all pages. */
export async function rowsOfPage<T extends object>(
  db: Db,
  { columns, from, where, after, most }: List
): Promise<Pick<Page<T>, 'rows' | 'more'>> {
  const rows = await db<T[]>`
    SELECT ${columns}
    FROM ${from}
    WHERE p.code > ${after} AND ${where}
    ORDER BY p.code
    LIMIT ${most + 1}
  `;
  return { rows: rows.slice(0, most), more: rows.length > most };
}

/** How many there are on all pages of a list. */
export async function countList(db: Db, { from, where }: ListOf): Promise<number> {
  const [all] = await db<[{ total: number }]>`
    SELECT count(*)::int AS total FROM ${from} WHERE ${where}
  `;
  return all.total;
}
