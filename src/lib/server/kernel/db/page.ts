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

interface List {
  /** What is shown of each. */
  columns: ReturnType<Db>;
  /** What they are read from, the table whose code they go by as `p`. */
  from: ReturnType<Db>;
  /** Which of them the list has. */
  where: ReturnType<Db>;
  /** The code the page comes after. */
  after: string;
  /** Rows of a page. */
  most: number;
}

/** Reads a page of a list by code: what is shown is computed for its rows alone. */
export async function readPage<T extends object>(
  db: Db,
  { columns, from, where, after, most }: List
): Promise<Page<T>> {
  const [rows, [all]] = await Promise.all([
    db<T[]>`
      SELECT ${columns}
      FROM ${from}
      WHERE p.code > ${after} AND ${where}
      ORDER BY p.code
      LIMIT ${most + 1}
    `,
    db<[{ total: number }]>`SELECT count(*)::int AS total FROM ${from} WHERE ${where}`
  ]);
  return { rows: rows.slice(0, most), more: rows.length > most, total: all.total };
}
