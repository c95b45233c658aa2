import { stringify } from 'csv-stringify/sync';
import writeXlsx from 'write-excel-file/node';

export interface Written {
  body: Uint8Array;
  type: string;
  name: string;
}

/**
 * A spreadsheet takes a cell that begins like this for a formula; in a CSV it is made plain text
 * (OWASP, CSV injection).
 */
const FORMULA = /^[=+\-@\t\r]/;

/**
 * Writes a table with headings as CSV in UTF-8 or as an XLSX file.
 * @param rows cells by column; everything is written as text, so that a number keeps its leading
 * zeros
 */
export async function writeTable(
  name: string,
  format: 'csv' | 'xlsx',
  columns: readonly { key: string; says: string }[],
  rows: readonly Record<string, string>[]
): Promise<Written> {
  if (format === 'csv') {
    const safe = (text: string) =>
      FORMULA.test(text) && !/^-?\d+(\.\d+)?$/.test(text) ? `'${text}` : text;
    const text = stringify(
      [
        columns.map((column) => column.says),
        ...rows.map((row) => columns.map((column) => safe(row[column.key] ?? '')))
      ],
      { bom: true, record_delimiter: 'windows' }
    );
    return {
      body: new TextEncoder().encode(text),
      type: 'text/csv; charset=utf-8',
      name: `${name}.csv`
    };
  }
  const data = [
    columns.map((column) => ({ value: column.says, fontWeight: 'bold' as const })),
    ...rows.map((row) => columns.map((column) => ({ type: String, value: row[column.key] ?? '' })))
  ];
  const body = await writeXlsx(
    data as never,
    {
      stickyRowsCount: 1,
      columns: columns.map((column) => ({ width: Math.max(10, column.says.length + 2) }))
    } as never
  ).toBuffer();
  return {
    body: new Uint8Array(body as Buffer),
    type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    name: `${name}.xlsx`
  };
}

/** A written table, or any file, as an answer to download. */
export const fileResponse = (
  { body, type, name }: Omit<Written, 'body'> & { body: Uint8Array | ReadableStream<Uint8Array> },
  inline = false
): Response =>
  new Response(body as Uint8Array<ArrayBuffer> | ReadableStream<Uint8Array>, {
    headers: {
      'content-type': type,
      'content-disposition': `${inline ? 'inline' : 'attachment'}; filename="${name.replace(/[^\w.-]/g, '_')}"`,
      'cache-control': 'no-store'
    }
  });

/** A paper, to be looked at where it is opened. */
export const pdfResponse = (body: Uint8Array, name: string): Response =>
  fileResponse({ body, type: 'application/pdf', name }, true);
