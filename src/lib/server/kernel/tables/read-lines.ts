import { parse } from 'csv-parse/sync';
import { readSheet } from 'read-excel-file/node';
import { shown } from '../../../core/numbers/number.ts';
import { boundXlsx } from './bound-xlsx.ts';
import { MOST_COLUMNS, MOST_TABLE_ROWS, tooManyColumns, tooManyRows } from './table-limits.ts';
import { Unreadable } from './unreadable.ts';

export interface Line {
  row: number;
  cells: string[];
}

/**
 * The rows of a file as text: CSV (comma, semicolon or tab; UTF-8 with or without mark), or the first
 * sheet of an XLSX file. It may take seconds and much memory: it is read in a thread (read-lines-apart.ts).
 * @throws Unreadable
 */
export async function readLines(file: Uint8Array): Promise<Line[]> {
  const lines = isZip(file) ? await readXlsx(file) : readCsv(file);
  if (lines.some((line) => line.cells.length > MOST_COLUMNS))
    throw new Unreadable(422, tooManyColumns());
  return lines;
}

/** An XLSX file is a ZIP archive, and begins like one. */
const isZip = (file: Uint8Array): boolean => file[0] === 0x50 && file[1] === 0x4b;

async function readXlsx(file: Uint8Array): Promise<Line[]> {
  boundXlsx(file);
  let data: unknown[][];
  try {
    data = (await readSheet(Buffer.from(file), {
      parseNumber: (text: string) => text,
      dateFormat: 'yyyy-mm-dd'
    } as never)) as unknown as unknown[][];
  } catch {
    throw new Unreadable(422, 'It is no XLSX file that can be read. Save it again as XLSX or CSV.');
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

/** Rows that are made at most: those that count, headings, and one more that tells there are more. */
const MADE_ROWS = MOST_TABLE_ROWS + 2;

function readCsv(file: Uint8Array): Line[] {
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(file);
  } catch {
    throw new Unreadable(
      422,
      'It is neither XLSX nor text in UTF-8. Save it as XLSX, or as CSV in UTF-8.'
    );
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
      info: true,
      to: MADE_ROWS
    }) as unknown as { record: string[]; info: { lines: number } }[];
    if (records.length >= MADE_ROWS) throw new Unreadable(422, tooManyRows());
    return records.map(({ record, info }) => ({ row: info.lines, cells: record }));
  } catch (error) {
    if (error instanceof Unreadable) throw error;
    throw new Unreadable(
      422,
      `It cannot be read as CSV: ${shown((error as Error).message)}. Put quotes round cells that hold the separator or a quote.`
    );
  }
}
