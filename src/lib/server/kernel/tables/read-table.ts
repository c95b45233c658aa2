import { parse } from 'csv-parse/sync';
import { readSheet } from 'read-excel-file/node';
import { readHeadings, type TableColumn } from '../../../core/tables/headings.ts';
import { shown } from '../../../core/numbers/number.ts';
import { Problem } from '../problem.ts';

/** Largest file taken, and most rows: what a person can still look through. */
export const MOST_BYTES = 5_000_000;
export const MOST_TABLE_ROWS = 20_000;

export interface TableRow {
  /** Row in the file, the headings being row 1. */ row: number;
  cells: Record<string, string>;
}
export interface Table {
  rows: TableRow[];
  /** Headings that are no column of ours. */ passedOver: string[];
}

/**
 * Reads a table with headings from CSV (comma, semicolon or tab; UTF-8 with or without mark) or
 * from the first sheet of an XLSX file.
 * Numbers keep the digits they have in the file, dates become `YYYY-MM-DD`.
 * @throws Problem 413 where it is too large, 422 where it cannot be read or a column is missing
 */
export async function readTable(file: Uint8Array, columns: readonly TableColumn[]): Promise<Table> {
  if (file.length > MOST_BYTES)
    throw new Problem(413, 'The file is too large', [
      {
        code: 'request.too-large',
        path: '',
        message: `It has ${Math.ceil(file.length / 1e6)} MB; 5 MB are the most. Send it in parts.`
      }
    ]);
  const lines = isZip(file) ? await readXlsx(file) : readCsv(file);
  const head = lines.find((line) => line.cells.some((cell) => cell !== ''));
  if (!head)
    throw unreadable(
      'It has no rows. The first row names the columns, every further one is a record.'
    );
  const reading = readHeadings(head.cells, columns);
  if (!reading.ok) {
    const faults = [
      ...(reading.missing.length > 0
        ? [`the column ${reading.missing.join(' and the column ')} is missing`]
        : []),
      ...reading.twice.map((name) => `the column ${name} stands twice`)
    ];
    throw unreadable(
      `In its first row ${faults.join(', and ')}. It has: ${shown(head.cells.filter(Boolean).join(', ')) || 'nothing'}. The columns it may have are: ${columns.map((column) => column.says).join(', ')}.`
    );
  }
  const rows = lines
    .slice(lines.indexOf(head) + 1)
    .filter((line) => line.cells.some((cell) => cell !== ''));
  if (rows.length > MOST_TABLE_ROWS)
    throw unreadable(
      `It has ${rows.length.toLocaleString('en-GB')} rows; ${MOST_TABLE_ROWS.toLocaleString('en-GB')} are the most. Send it in parts.`
    );
  return {
    passedOver: reading.unknown,
    rows: rows.map(({ row, cells }) => ({
      row,
      cells: Object.fromEntries(
        reading.columns.flatMap((key, at) => (key === null ? [] : [[key, cells[at] ?? '']]))
      )
    }))
  };
}

interface Line {
  row: number;
  cells: string[];
}

/** An XLSX file is a ZIP archive, and begins like one. */
const isZip = (file: Uint8Array): boolean => file[0] === 0x50 && file[1] === 0x4b;

/** Most bytes a file may unpack to: a spreadsheet of twenty thousand rows stays far below. */
const MOST_UNPACKED = 200_000_000;

/**
 * What the entries of a ZIP archive say they unpack to (PKWARE APPNOTE 4.3.12, central directory),
 * before anything is unpacked.
 */
function unpackedSize(file: Uint8Array): number {
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength);
  let sum = 0;
  for (let at = 0; at + 46 <= file.length; at++)
    if (view.getUint32(at, true) === 0x02014b50) sum += view.getUint32(at + 24, true);
  return sum;
}

async function readXlsx(file: Uint8Array): Promise<Line[]> {
  if (unpackedSize(file) > MOST_UNPACKED)
    throw new Problem(413, 'The file is too large', [
      {
        code: 'request.too-large',
        path: '',
        message:
          'It unpacks to more than 200 MB. Save only the sheet that is wanted, without pictures, or as CSV.'
      }
    ]);
  let data: unknown[][];
  try {
    data = (await readSheet(Buffer.from(file), {
      parseNumber: (text: string) => text,
      dateFormat: 'yyyy-mm-dd'
    } as never)) as unknown as unknown[][];
  } catch {
    throw unreadable('It is no XLSX file that can be read. Save it again as XLSX or CSV.');
  }
  return data.map((cells, at) => ({ row: at + 1, cells: cells.map(asText) }));
}

/**
 * A cell as a person sees it. A spreadsheet keeps 0.1 as 0.10000000000000001; fifteen digits are
 * what it shows.
 */
function asText(cell: unknown): string {
  if (cell === null || cell === undefined) return '';
  if (cell instanceof Date) return cell.toISOString().slice(0, 10);
  const text = String(cell).trim();
  return /^-?\d*\.\d{14,}$/.test(text) ? String(Number(Number(text).toPrecision(15))) : text;
}

function readCsv(file: Uint8Array): Line[] {
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(file);
  } catch {
    throw unreadable('It is neither XLSX nor text in UTF-8. Save it as XLSX, or as CSV in UTF-8.');
  }
  const first = text.slice(0, 5000).split(/\r?\n/)[0] ?? '';
  const delimiter = [',', ';', '\t']
    .map((sign) => [sign, first.split(sign).length] as const)
    .sort((a, b) => b[1] - a[1])[0]![0];
  try {
    const records = parse(text, {
      bom: true,
      delimiter,
      relaxColumnCount: true,
      trim: true,
      skipEmptyLines: true,
      info: true
    }) as unknown as { record: string[]; info: { lines: number } }[];
    return records.map(({ record, info }) => ({ row: info.lines, cells: record }));
  } catch (error) {
    throw unreadable(
      `It cannot be read as CSV: ${shown((error as Error).message)}. Put quotes round cells that hold the separator or a quote.`
    );
  }
}

const unreadable = (message: string): Problem =>
  new Problem(422, 'The table cannot be read', [{ code: 'request.malformed', path: '', message }]);
