import type { Sql } from '../../kernel/db/client.ts';
import { today } from '../../kernel/clock.ts';
import { writeTable, type Written } from '../../kernel/tables/write-table.ts';
import { fitsOneFile } from '../../kernel/tables/fits-one-file.ts';
import { company } from '../../catalogue/company.ts';
import { valuePdf } from '../papers/value.ts';
import { valueChangesPdf } from '../papers/value-changes.ts';
import { readValue, readValueBy, type ValueAsked, type ValuedBy } from './read-value.ts';
import { readValueChanges } from './read-value-changes.ts';

/** Most rows one table takes, and one paper. */
const MOST_IN_FILE = 200_000;
const MOST_ON_PAPER = 5_000;

const COLUMNS = [
  { key: 'product', says: 'product' },
  { key: 'name', says: 'name' },
  { key: 'number', says: 'lot or serial' },
  { key: 'lot', says: 'within lot' },
  { key: 'place', says: 'place' },
  { key: 'quantity', says: 'quantity' },
  { key: 'unit', says: 'unit' },
  { key: 'unitCost', says: 'cost of one' },
  { key: 'value', says: 'value' }
] as const;

const CHANGE_COLUMNS = [
  { key: 'day', says: 'day' },
  { key: 'kind', says: 'what' },
  { key: 'document', says: 'document' },
  { key: 'event', says: 'event' },
  { key: 'product', says: 'product' },
  { key: 'number', says: 'lot or serial' },
  { key: 'quantity', says: 'quantity' },
  { key: 'unit', says: 'unit' },
  { key: 'costBefore', says: 'cost before' },
  { key: 'costAfter', says: 'cost of one' },
  { key: 'amount', says: 'amount' },
  { key: 'gone', says: 'of what had left' },
  { key: 'reason', says: 'reason' },
  { key: 'by', says: 'booked by' },
  { key: 'approvedBy', says: 'approved by' }
] as const;

export type ValueFormat = 'csv' | 'xlsx' | 'pdf';

/** The value of stock as a file: mark by mark as a table, summed up on paper. */
export async function valueFile(
  sql: Sql,
  asked: ValueAsked,
  format: ValueFormat,
  by: ValuedBy
): Promise<Written> {
  const day = asked.day ?? today();
  const name = `value-${day}`;
  if (format === 'pdf') {
    const own = await company(sql);
    const groups = await readValueBy(sql, by, asked);
    fitsOneFile(groups.length, MOST_ON_PAPER, 'Have it by product or place, or as a table.');
    return {
      name: `${name}.pdf`,
      type: 'application/pdf',
      body: await valuePdf(own, day, by, groups)
    };
  }
  const { rows, count } = await readValue(sql, asked, MOST_IN_FILE);
  fitsOneFile(count, MOST_IN_FILE, 'Ask for one place or product at a time.');
  const told = rows.map(({ mark, ...row }) => ({
    ...row,
    number: mark.number ?? '',
    lot: mark.lot ?? '',
    unitCost: row.unitCost ?? 'not known',
    value: row.value ?? 'not known'
  }));
  return writeTable(name, format, COLUMNS, told);
}

/** What changed the value in a period, as a file. */
export async function valueChangesFile(
  sql: Sql,
  period: { from: string; to: string },
  format: ValueFormat
): Promise<Written> {
  const name = `value-changes-${period.from}-${period.to}`;
  const most = format === 'pdf' ? MOST_ON_PAPER : MOST_IN_FILE;
  const changes = await readValueChanges(sql, period, most, format !== 'pdf');
  fitsOneFile(changes.count, most, 'Ask for a shorter period.');
  if (format === 'pdf') {
    const body = await valueChangesPdf(await company(sql), period, changes);
    return { name: `${name}.pdf`, type: 'application/pdf', body };
  }
  const told = changes.rows.map((row) =>
    Object.fromEntries(
      Object.entries(row).map(([key, value]) => [key, value === null ? '' : String(value)])
    )
  );
  return writeTable(name, format, CHANGE_COLUMNS, told);
}
