import type { Db } from '../kernel/db/client.ts';
import { writeTable, type Written } from '../kernel/tables/write-table.ts';
import { askedEvents, type RecordQuery } from './asked-events.ts';
import { LEDGER_COLUMNS, readLedgerRows } from './ledger-rows.ts';
import { writeEvents } from './write-events.ts';

/**
 * The ledger of a period, or of a lot or serial: all it moved, changed and went on in spite of as a
 * table, or the events as EPCIS 2.0. @throws Problem 422 where it is more than one file takes
 */
export async function writeLedger(
  db: Db,
  asked: RecordQuery,
  format: 'csv' | 'xlsx' | 'epcis'
): Promise<Written> {
  const ids = await askedEvents(db, asked);
  if (format !== 'epcis')
    return writeTable('ledger', format, LEDGER_COLUMNS, await readLedgerRows(db, ids));
  return {
    body: new TextEncoder().encode(JSON.stringify(await writeEvents(db, ids))),
    type: 'application/ld+json',
    name: 'ledger.jsonld'
  };
}
