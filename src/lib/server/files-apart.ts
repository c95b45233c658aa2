import type { FILES } from './files-thread.ts';
import { madeApart } from './kernel/made-apart.ts';
import { packRows } from './kernel/tables/packed-rows.ts';
import type { Written } from './kernel/tables/write-table.ts';

const made = <Name extends keyof typeof FILES>(name: Name) => madeApart<typeof FILES, Name>(name);

export const ledgerApart = made('ledger');
export const recordSheetApart = made('record-sheet');
export const productsApart = made('products');
export const billsApart = made('bills');
export const deskApart = made('desk');
export const valueApart = made('value');
export const valueChangesApart = made('value-changes');
export const epcisQueryApart = made('epcis-query');
export const epcisEventApart = made('epcis-event');
export const epcisEventsApart = made('epcis-events');
export const recordsFileApart = made('records');

export const captureApart = made('capture');

const packedApart = made('table');

/** A table of rows that are there already, written apart. */
export const tableApart = async (
  name: string,
  format: 'csv' | 'xlsx',
  columns: readonly { key: string; says: string }[],
  rows: readonly Record<string, string>[]
): Promise<Written> => {
  const keys = columns.map((one) => one.key);
  return packedApart(name, format, columns, await packRows(keys, rows));
};
