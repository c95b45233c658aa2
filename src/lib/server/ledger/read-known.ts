import type { Wants } from '../../core/ledger/request.ts';
import type { Snapshot } from '../../core/ledger/snapshot.ts';
import type { Sql } from '../kernel/db/client.ts';
import { readSnapshot } from './read-snapshot.ts';

/** What a decision would know now, for a device that decides without a line: nothing is locked. */
export const readKnown = (sql: Sql, wants: Wants): Promise<Snapshot> =>
  sql.begin('READ ONLY', (tx) => readSnapshot(tx, wants, null, true)) as Promise<Snapshot>;
