import type { Db } from '../../kernel/db/client.ts';
import { today } from '../../kernel/clock.ts';
import { fitsOneFile } from '../../kernel/tables/fits-one-file.ts';
import { writeTable, type Written } from '../../kernel/tables/write-table.ts';
import { stockListPdf } from '../papers/stock-list.ts';
import type { DeskAsked } from './asked.ts';
import { readDesk } from './read-desk.ts';

/** Most rows one table takes, and one paper. */
const MOST = { csv: 200_000, xlsx: 200_000, pdf: 5_000 } as const;

const COLUMNS = [
  { key: 'product', says: 'product' },
  { key: 'name', says: 'name' },
  { key: 'number', says: 'lot or serial' },
  { key: 'lot', says: 'within lot' },
  { key: 'site', says: 'site' },
  { key: 'place', says: 'place' },
  { key: 'quantity', says: 'quantity' },
  { key: 'unit', says: 'unit' },
  { key: 'free', says: 'free' },
  { key: 'promised', says: 'promised' },
  { key: 'state', says: 'state' },
  { key: 'expires', says: 'expires' },
  { key: 'since', says: 'since' }
] as const;

/**
 * What the desk shows as a file, all of it and in its order.
 * @throws Problem 422 where it is more than one file takes
 */
export async function deskFile(
  db: Db,
  asked: DeskAsked,
  format: keyof typeof MOST
): Promise<Written> {
  const most = MOST[format];
  const desk = await readDesk(db, asked, most);
  fitsOneFile(desk.count, most, 'Narrow them by product, place or site.');
  const name = `on-hand-${asked.day ?? today()}`;
  if (format === 'pdf')
    return {
      name: `${name}.pdf`,
      type: 'application/pdf',
      body: await stockListPdf(db, asked, desk)
    };
  const rows = desk.rows.map((row) =>
    Object.fromEntries(COLUMNS.map(({ key }) => [key, String(row[key] ?? '')]))
  );
  return writeTable(name, format, COLUMNS, rows);
}
