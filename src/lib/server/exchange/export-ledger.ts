import type { Db } from '../kernel/db/client.ts';
import { writeTable, type Written } from '../kernel/tables/write-table.ts';
import { askedEvents, type RecordQuery } from './asked-events.ts';
import { LEDGER_COLUMNS, readLedgerRows } from './ledger-rows.ts';
import { eventsFile } from './write-events.ts';

/**
 * The ledger of a period, or of a lot or serial: all it moved, changed and went on in spite of as a
 * table, or the events as EPCIS 2.0.
 * @param seesCosts whether whoever asks may see costs; their column is left out otherwise
 * @throws Problem 422 where it is more than one file takes
 */
export async function writeLedger(
  db: Db,
  asked: RecordQuery,
  format: 'csv' | 'xlsx' | 'epcis',
  seesCosts: boolean
): Promise<Written> {
  const ids = await askedEvents(db, asked);
  const columns = LEDGER_COLUMNS.filter(({ key }) => seesCosts || key !== 'unitCost');
  if (format !== 'epcis')
    return writeTable('ledger', format, columns, await readLedgerRows(db, ids));
  return eventsFile(db, ids, 'ledger');
}
