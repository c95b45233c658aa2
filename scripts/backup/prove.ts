import type { SignedHead } from '../../src/lib/core/seal/proof.ts';
import type { Sql } from '../../src/lib/server/kernel/db/client.ts';
import { reconcile } from '../../src/lib/server/ledger/reconcile.ts';
import { verifyLedger } from '../../src/lib/server/seal/verify-ledger.ts';
import { onDatabase } from '../on-database.ts';
import { sayBreak, saySealBreak } from '../say-breaks.ts';
import { publicKeyIn, sealKeyFileOf } from '../seal-key.ts';

export interface Proved {
  events: number;
  /** The last event that is there: its id and when it was booked. */
  last: { id: number; at: Date } | null;
  /** Heads that were compared. */
  heads: number;
  /** What does not hold, a line each. */
  breaks: string[];
}

/**
 * Proves a ledger that was brought back: every law from its rows alone, every event against what
 * was sealed, and the heads that are known from elsewhere.
 * @param witnessed heads it must come to
 */
export const prove = (
  url: string,
  data: string,
  witnessed: readonly SignedHead[]
): Promise<Proved> =>
  onDatabase(url, async (sql) => {
    const rows = await reconcile(sql);
    const sealed = await verifyLedger(sql, publicKeyIn(sealKeyFileOf(data)), witnessed);
    return {
      ...(await lastOf(sql)),
      heads: sealed.heads,
      breaks: [...rows.breaks.map(sayBreak), ...sealed.breaks.map(saySealBreak)]
    };
  });

async function lastOf(sql: Sql): Promise<Pick<Proved, 'events' | 'last'>> {
  const [row] = await sql<[{ events: number; id: number | null; at: Date }]>`
    SELECT count(*)::int AS events, max(id) AS id, max(booked_at) AS at
    FROM event
  `;
  return { events: row.events, last: row.id === null ? null : { id: row.id, at: row.at } };
}
