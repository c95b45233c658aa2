import { groupBy } from '../../core/group-by.ts';
import { readDay } from '../../core/calendar/read-day.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { TableColumn } from '../../core/tables/headings.ts';
import type { Actor } from '../kernel/actor.ts';
import { Bill } from './schemas.ts';
import { billVersions, putBill, readBill } from './bills.ts';
import type { Db, Sql, Tx } from '../kernel/db/client.ts';
import { readTable, type TableRow } from '../kernel/tables/read-table.ts';
import { writeTable, type Written } from '../kernel/tables/write-table.ts';
import { today } from '../kernel/clock.ts';
import { badCells, type ImportMode, type ImportReport } from '../kernel/imports/report.ts';
import { runImport } from '../kernel/imports/run-import.ts';

/**
 * The columns of a table of bills, the same out and in: a row for each part. Co-products stay as
 * the bill in force has them.
 */
export const BILL_COLUMNS: readonly TableColumn[] = [
  { key: 'product', says: 'product', required: true, also: ['made product'] },
  { key: 'validFrom', says: 'valid from', also: ['from'] },
  { key: 'batch', says: 'batch makes', also: ['batch size', 'batch'] },
  { key: 'component', says: 'component', required: true, also: ['part'] },
  { key: 'quantity', says: 'quantity', required: true },
  { key: 'per', says: 'per' },
  { key: 'scrapPercent', says: 'scrap per cent', also: ['scrap allowance', 'scrap'] },
  { key: 'follow', says: 'followed', also: ['follow'] },
  { key: 'positions', says: 'positions' },
  { key: 'alternates', says: 'alternates' },
  { key: 'revision', says: 'revision' }
];
const listed = (text: string | undefined): string[] =>
  (text ?? '')
    .split(';')
    .map((one) => one.trim())
    .filter(Boolean);

/** The bills in force today, of one product or of all. */
export async function exportBills(
  db: Db,
  format: 'csv' | 'xlsx',
  product?: string
): Promise<Written> {
  const codes = product
    ? [product]
    : (
        await db<{ code: string }[]>`
          SELECT p.code
          FROM product p
          WHERE EXISTS (SELECT FROM bill b WHERE b.product_id = p.id)
          ORDER BY p.code
        `
      ).map((row) => row.code);
  const bills = (
    await Promise.all(codes.map((code) => readBill(db, code, { day: today() })))
  ).filter((bill) => bill !== null);
  return writeTable(
    product ? `bill ${product}` : 'bills',
    format,
    BILL_COLUMNS,
    bills.flatMap((bill) =>
      bill.parts.map((part) => ({
        product: bill.product,
        validFrom: bill.validFrom,
        batch: bill.batch ?? '',
        component: part.product,
        quantity: part.quantity,
        per: part.per,
        scrapPercent: part.scrapPercent,
        follow: part.follow,
        positions: part.positions.join('; '),
        alternates: part.alternates.join('; '),
        revision: part.revision ?? ''
      }))
    )
  );
}

/**
 * Reads bills from a file, rows of one product making one bill, and reports bill by bill. @throws
 * Problem 413, 422 for the file as a whole
 */
export async function importBills(
  sql: Sql,
  actor: Actor,
  file: Uint8Array,
  mode: ImportMode
): Promise<ImportReport> {
  const { rows, passedOver } = await readTable(file, BILL_COLUMNS);
  const records = [...groupBy(rows, (row) => numberKey(row.cells.product ?? '')).values()].map(
    (lines) => {
      const product = lines[0]!.cells.product ?? '';
      const { head, faults } = headOf(lines);
      return {
        row: lines[0]!.row,
        what: product || 'without product',
        faults: [...(product === '' ? ['The product is missing.'] : []), ...faults],
        keep: async (tx: Tx): Promise<'new' | 'changed' | 'same'> => {
          const present = await readBill(tx, product, { day: today() });
          const before = new Map(
            (present?.parts ?? []).map((part) => [numberKey(part.product), part])
          );
          const markings = new Map(
            (
              await tx<{ code: string; marking: string }[]>`
                SELECT code, marking
                FROM product
                WHERE upper(code) = ANY(
                  ${lines.map((line) => numberKey(line.cells.component ?? ''))}
                )
              `
            ).map((row) => [numberKey(row.code), row.marking])
          );
          const parts = lines.map(({ cells }) => {
            const old = before.get(numberKey(cells.component ?? ''));
            return {
              product: cells.component,
              quantity: cells.quantity,
              per: cells.per || old?.per || 'unit',
              scrapPercent:
                cells.scrapPercent === undefined
                  ? (old?.scrapPercent ?? '0')
                  : cells.scrapPercent || '0',
              follow:
                cells.follow ||
                old?.follow ||
                (markings.get(numberKey(cells.component ?? '')) === 'none' ? 'drawn' : 'unit'),
              positions:
                cells.positions === undefined ? (old?.positions ?? []) : listed(cells.positions),
              alternates:
                cells.alternates === undefined ? (old?.alternates ?? []) : listed(cells.alternates),
              revision:
                cells.revision === undefined ? (old?.revision ?? null) : cells.revision || null
            };
          });
          const wanted = Bill.safeParse({
            batch: head.batch === undefined ? (present?.batch ?? null) : head.batch,
            note: present?.note ?? '',
            ...(head.validFrom && head.validFrom !== present?.validFrom
              ? { validFrom: head.validFrom }
              : {}),
            parts,
            coProducts: present?.coProducts ?? []
          });
          if (!wanted.success) throw badCells(wanted.error.issues);
          const { created } = await putBill(tx, product, wanted.data, actor.personId);
          return !created
            ? 'same'
            : (await billVersions(tx, product)).length > 1
              ? 'changed'
              : 'new';
        }
      };
    }
  );
  return runImport(sql, records, passedOver, mode);
}

/** What the rows of one bill say of the whole: it must be the same in all of them. */
function headOf(lines: readonly TableRow[]): {
  head: { validFrom?: string; batch?: string | null };
  faults: string[];
} {
  const faults: string[] = [];
  const of = (key: string): string | undefined => {
    const said = [...new Set(lines.flatMap((line) => line.cells[key] || []))];
    if (said.length > 1)
      faults.push(
        `Its rows say ${said.join(' and ')} as ${BILL_COLUMNS.find((column) => column.key === key)!.says}. Make them the same.`
      );
    return lines[0]!.cells[key] === undefined ? undefined : (said[0] ?? '');
  };
  const from = of('validFrom'),
    batch = of('batch');
  const validFrom = from ? readDay(from) : null;
  if (from && validFrom === null) faults.push(`“${from}” is no date. Give year-month-day.`);
  return {
    head: {
      ...(validFrom ? { validFrom } : {}),
      ...(batch === undefined ? {} : { batch: batch || null })
    },
    faults
  };
}
