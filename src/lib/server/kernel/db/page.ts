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

/** A page of at most so many, of rows that were read with one beyond them. */
export const pageOf = <T>(rows: readonly T[], most: number, total: number): Page<T> => ({
  rows: rows.slice(0, most),
  more: rows.length > most,
  total
});
