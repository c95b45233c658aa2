import type { TableColumn } from '../../core/tables/headings.ts';
import { groupBy } from '../../core/group-by.ts';
import { readDay } from '../../core/calendar/read-day.ts';
import type { Actor } from '../kernel/actor.ts';
import { Order } from './schemas.ts';
import type { OrderKind } from './schemas.ts';
import { requireOrderRight } from './order-right.ts';
import { putOrder } from './write-order.ts';
import type { Sql, Tx } from '../kernel/db/client.ts';
import { readTable, type TableRow } from '../kernel/tables/read-table.ts';
import { badCells, type ImportMode, type ImportReport } from '../kernel/imports/report.ts';
import { runImport } from '../kernel/imports/run-import.ts';

/**
 * The columns of a table of orders: a row for each line, or for each number announced of a line.
 */
export const ORDER_COLUMNS = (kind: OrderKind): readonly TableColumn[] => [
  { key: 'order', says: 'order', required: true, also: ['order number', 'number'] },
  ...(kind === 'work'
    ? []
    : [
        {
          key: 'partner',
          says: kind === 'purchase' ? 'supplier' : 'customer',
          also: ['partner'],
          required: true
        }
      ]),
  { key: 'due', says: 'due', also: ['due date'], required: true },
  { key: 'product', says: 'product', also: ['code', 'product code'], required: true },
  { key: 'quantity', says: 'quantity', required: true },
  { key: 'unit', says: 'unit' },
  { key: 'place', says: 'place' },
  { key: 'note', says: 'note' },
  ...(kind === 'purchase'
    ? [
        { key: 'unitPrice', says: 'unit price', also: ['price'] },
        { key: 'overPercent', says: 'over-receipt per cent', also: ['tolerance'] },
        { key: 'lot', says: 'announced lot', also: ['lot'] },
        { key: 'serial', says: 'announced serial', also: ['serial'] },
        { key: 'expires', says: 'expires', also: ['expiry'] },
        { key: 'supplierNumber', says: 'their number', also: ['supplier number'] }
      ]
    : [])
];

/**
 * Reads orders from a file, rows of one number making one order, and reports order by order. Rows
 * that name an announced number repeat their line's product; the line's quantity is that of its
 * first row that has one.
 * @throws Problem 413, 422 for the file as a whole, 403 without the right
 */
export async function importOrders(
  sql: Sql,
  actor: Actor,
  kind: OrderKind,
  file: Uint8Array,
  mode: ImportMode
): Promise<ImportReport> {
  requireOrderRight(actor, kind);
  const { rows, passedOver } = await readTable(file, ORDER_COLUMNS(kind));
  const orders = groupBy(rows, (row) => (row.cells.order ?? '').toUpperCase());
  const records = [...orders.values()].map((lines) => {
    const number = lines[0]!.cells.order ?? '';
    const { body, faults } = bodyOf(kind, lines);
    return {
      row: lines[0]!.row,
      what: number || 'without number',
      faults: [...(number === '' ? ['The order’s number is missing.'] : []), ...faults],
      keep: async (tx: Tx): Promise<'new' | 'changed'> => {
        const wanted = Order.safeParse(body);
        if (!wanted.success) throw badCells(wanted.error.issues);
        return (await putOrder(tx, actor, kind, number, wanted.data)).created ? 'new' : 'changed';
      }
    };
  });
  return runImport(sql, records, passedOver, mode);
}

interface LineBody {
  product: string;
  quantity: string;
  unit?: string;
  overPercent?: string;
  unitPrice?: string;
  announced: Record<string, string>[];
}

function bodyOf(
  kind: OrderKind,
  rows: readonly TableRow[]
): { body: Record<string, unknown>; faults: string[] } {
  const faults: string[] = [];
  const first = rows[0]!.cells;
  const day = (row: TableRow, key: string): string | undefined => {
    const text = row.cells[key] ?? '';
    const read = readDay(text);
    if (text !== '' && read === null)
      faults.push(
        `Row ${row.row}: “${text}” is no date. Write it as year-month-day, such as 2027-03-12.`
      );
    return read ?? undefined;
  };
  if (!first.due) faults.push(`Row ${rows[0]!.row}: the due date is missing.`);
  for (const row of rows)
    for (const key of ['partner', 'due'])
      if (row.cells[key] && first[key] && row.cells[key] !== first[key])
        faults.push(
          `Row ${row.row}: ${key === 'due' ? 'the due date' : 'the partner'} is ${row.cells[key]}, and on row ${rows[0]!.row} of the same order ${first[key]}. An order has one.`
        );
  const lines = new Map<string, LineBody>();
  for (const row of rows) {
    const {
      product = '',
      quantity = '',
      unit = '',
      overPercent = '',
      unitPrice = '',
      lot = '',
      serial = '',
      supplierNumber = ''
    } = row.cells;
    const announces = lot !== '' || serial !== '';
    const key =
      announces || lines.has(`${product} announced`)
        ? `${product} announced`
        : `${product} ${row.row}`;
    const line = lines.get(key) ?? {
      product,
      quantity,
      ...(unit ? { unit } : {}),
      ...(overPercent ? { overPercent } : {}),
      ...(unitPrice ? { unitPrice } : {}),
      announced: []
    };
    if (line.quantity === '') line.quantity = quantity;
    const expires = day(row, 'expires');
    if (announces)
      line.announced.push({
        ...(lot ? { lot } : {}),
        ...(serial ? { serial } : {}),
        ...(expires ? { expires } : {}),
        ...(supplierNumber ? { supplierNumber } : {})
      });
    lines.set(key, line);
  }
  return {
    faults,
    body: {
      ...(kind === 'work' ? {} : { partner: first.partner }),
      due: day(rows[0]!, 'due'),
      ...(first.place ? { place: first.place } : {}),
      ...(first.note ? { note: first.note } : {}),
      lines: [...lines.values()].map(({ announced, ...line }) =>
        announced.length > 0 ? { ...line, announced } : line
      )
    }
  };
}
