import type { Day } from '../../core/calendar/day.ts';
import { readDay } from '../../core/calendar/read-day.ts';
import { readTypedDay } from '../../core/calendar/read-typed-day.ts';
import { looksLikeHeadings, readHeadings } from '../../core/tables/headings.ts';
import { asTableColumns, type Column, type Row } from './grid.ts';

/** Most rows a sheet holds, as many as one booking takes. */
export const MOST_SHEET_ROWS = 20_000;
/** Beyond this a paste is not even taken apart: somebody copied a whole file. */
const MOST_CHARACTERS = 20_000_000;

export type Pasted =
  | {
      ok: true;
      rows: Row[];
      /** Headings that are no column of this sheet. */ passedOver: string[];
    }
  | { ok: false; why: string };

/**
 * Takes a pasted column or table apart: lines by any line end, cells by tabs. Where the first line
 * names columns the cells go where they belong, otherwise into the columns from the one in hand on.
 * Dates become `YYYY-MM-DD` where they are dates; anything else stays as it was pasted, for the
 * verdict to name.
 * @param first the column in hand
 * @param hidden columns that are not shown and may be named by headings all the same
 */
export function takePasted(
  text: string,
  columns: readonly Column[],
  first: number,
  hidden: readonly Column[] = []
): Pasted {
  if (text.length > MOST_CHARACTERS)
    return { ok: false, why: tooMany('Over 20 million characters') };
  const lines = text.replace(/\r\n?|\u2028|\u2029/g, '\n').split('\n');
  while (lines.length > 0 && lines.at(-1)!.trim() === '') lines.pop();
  if (lines.length > MOST_SHEET_ROWS + 1)
    return { ok: false, why: tooMany(`${lines.length.toLocaleString('en-GB')} rows`) };
  const cells = lines
    .map((line) => line.split('\t').map(unquoted))
    .filter((row) => row.some((cell) => cell !== ''));
  if (cells.length === 0)
    return { ok: false, why: 'Nothing to paste: the clipboard holds no text.' };
  const all = [...columns, ...hidden];
  const table = asTableColumns(all);
  if (looksLikeHeadings(cells[0]!, table)) {
    if (cells.length === 1)
      return { ok: false, why: 'Only headings were pasted. Copy the rows under them too.' };
    const reading = readHeadings(cells[0]!, table);
    if (!reading.ok)
      return {
        ok: false,
        why: `The column ${reading.twice.join(' and ')} stands twice in what was pasted. Take one out.`
      };
    return {
      ok: true,
      passedOver: reading.unknown,
      rows: cells.slice(1).map((row) => rowOf(row, reading.columns))
    };
  }
  const keys = columns.slice(first).map((column) => column.key);
  return { ok: true, passedOver: [], rows: cells.map((row) => rowOf(row, keys)) };

  function rowOf(row: readonly string[], keysOf: readonly (string | null)[]): Row {
    const filled: Row = {};
    row.forEach((cell, at) => {
      const key = keysOf[at];
      if (key)
        filled[key] = tidied(
          all.find((column) => column.key === key)!,
          cell
        );
    });
    return filled;
  }
}

/** A cell as it is kept: dates in one form, everything else without the spaces round it. */
const tidied = (column: Column, text: string): string =>
  column.kind === 'date' ? (readDay(text) ?? text.trim()) : text.trim();

/**
 * A cell as it is kept when it was typed, by somebody who sees how it is read: a day in one form,
 * where it can be read.
 */
export const typedIn = (column: Column, text: string, today: Day): string =>
  column.kind === 'date'
    ? (readTypedDay(text, { today, monthEnds: column.monthEnds ?? false }) ?? text)
    : text;

/** A spreadsheet puts quotes round a cell that holds a quote, a tab or a line end. */
const unquoted = (cell: string): string => {
  const text = cell.trim();
  return /^".*"$/.test(text) && text.length > 1 ? text.slice(1, -1).replaceAll('""', '"') : text;
};

const tooMany = (what: string): string =>
  `${what} were pasted and ${MOST_SHEET_ROWS.toLocaleString('en-GB')} rows are the most of one sheet. Nothing was taken over: paste them in parts, or send the file through the API.`;
