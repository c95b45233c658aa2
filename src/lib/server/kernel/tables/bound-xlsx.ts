import { Unzip, UnzipInflate } from 'fflate';
import {
  MOST_COLUMNS,
  MOST_TABLE_ROWS,
  MOST_UNPACKED,
  tooManyColumns,
  tooManyRows,
  tooMuchUnpacked
} from './table-limits.ts';
import { Unreadable } from './unreadable.ts';

/** A spreadsheet has some ten entries; pictures and other sheets make a few more. */
const MOST_ENTRIES = 500;
/** What is looked for in a sheet is never longer, so it may lie across two pieces. */
const CARRIED = 64;
/** Headings and blank rows above what counts. */
const ROWS_TO_SPARE = 1_000;
/** Pieces that are inflated at once: small, so that a bomb is seen before it is large. */
const PIECE = 4_096;

/**
 * Looks through an XLSX file before anything is made of it. What it unpacks to is counted while it
 * is inflated, as what the archive says of itself need not be true; rows and columns are read where
 * cells name them, as a reader makes every row up to the last one named.
 * @throws Unreadable
 */
export function boundXlsx(file: Uint8Array): void {
  let unpacked = 0;
  let entries = 0;
  const unzip = new Unzip((entry) => {
    entries++;
    const sheet = /(^|\/)worksheets\//.test(entry.name) ? sheetLooker() : null;
    entry.ondata = (error, piece) => {
      if (error) throw asUnreadable(error);
      unpacked += piece.length;
      if (unpacked > MOST_UNPACKED || entries > MOST_ENTRIES)
        throw new Unreadable(413, tooMuchUnpacked());
      sheet?.(piece);
    };
    entry.start();
  });
  unzip.register(UnzipInflate);
  try {
    for (let at = 0; at < file.length; at += PIECE)
      unzip.push(file.subarray(at, at + PIECE), at + PIECE >= file.length);
  } catch (error) {
    throw asUnreadable(error);
  }
}

/** What was thrown here comes back as the archive's own error. */
const asUnreadable = (error: unknown): Unreadable =>
  error instanceof Unreadable
    ? error
    : new Unreadable(422, 'It is no XLSX file that can be read. Save it again as XLSX or CSV.');

/** Looks through the pieces of one sheet for rows and columns that are too many. */
function sheetLooker(): (piece: Uint8Array) => void {
  const decoder = new TextDecoder();
  let carried = '';
  return (piece) => {
    const text = carried + decoder.decode(piece, { stream: true });
    for (const [, columns = '', row = ''] of text.matchAll(/(?:\br="|:)([A-Z]{0,7})(\d{1,20})"/g)) {
      if (Number(row) > MOST_TABLE_ROWS + ROWS_TO_SPARE) throw new Unreadable(422, tooManyRows());
      if (columnNumber(columns) > MOST_COLUMNS) throw new Unreadable(422, tooManyColumns());
    }
    carried = text.slice(-CARRIED);
  };
}

/** `A` → 1, `AA` → 27. */
const columnNumber = (letters: string): number =>
  [...letters].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0);
