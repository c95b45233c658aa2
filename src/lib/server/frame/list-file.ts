import type { z } from 'zod';
import { company } from '../catalogue/company.ts';
import type { Db } from '../kernel/db/client.ts';
import { fileResponse, pdfResponse, writeTable } from '../kernel/tables/write-table.ts';
import { shownListPdf } from './papers/shown-list.ts';
import type { ListAsked } from './schemas.ts';

/**
 * A list as a screen shows it, as a paper or a file.
 * @param who asks for it, as the paper says
 */
export async function listFile(
  db: Db,
  who: string,
  { format, ...list }: z.infer<typeof ListAsked>,
  now: Date
): Promise<Response> {
  if (format === 'pdf') {
    const own = await company(db);
    return pdfResponse(await shownListPdf({ ...list, own: own.name, who }, now), 'list.pdf');
  }
  const columns = list.columns.map((says, at) => ({ key: String(at), says }));
  const rows = list.rows.map((row) =>
    Object.fromEntries(row.map((cell, at) => [String(at), cell]))
  );
  const note = list.note === '' ? [] : [{ '0': list.note }];
  return fileResponse(await writeTable('list', format, columns, [...rows, ...note]));
}
