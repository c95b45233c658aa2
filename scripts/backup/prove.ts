import { createPrivateKey } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import type { SignedHead } from '../../src/lib/core/seal/proof.ts';
import { connect, type Sql } from '../../src/lib/server/kernel/db/client.ts';
import { reconcile } from '../../src/lib/server/ledger/reconcile.ts';
import { sealKeyOf } from '../../src/lib/server/seal/seal-key.ts';
import { verifyLedger } from '../../src/lib/server/seal/verify-ledger.ts';
import { sealKeyFileOf } from './seal-key-file.ts';

export interface Proved {
  events: number;
  /** The last event that is there: its id and when it was booked. */
  last: { id: number; at: Date } | null;
  /** Heads that were compared. */
  heads: number;
  /** What does not hold, a line each. */
  breaks: string[];
}

/** Our own public key, where the data folder has it. */
function ourKey(data: string): string | undefined {
  const file = sealKeyFileOf(data);
  if (!existsSync(file)) return undefined;
  return sealKeyOf(createPrivateKey(readFileSync(file))).public.toString('base64');
}

/**
 * Proves a ledger that was brought back: every law from its rows alone, every event against what
 * was sealed, and the heads that are known from elsewhere.
 * @param witnessed heads it must come to
 */
export async function prove(
  url: string,
  data: string,
  witnessed: readonly SignedHead[]
): Promise<Proved> {
  const sql = connect(url, { max: 2 });
  try {
    const rows = await reconcile(sql);
    const sealed = await verifyLedger(sql, ourKey(data), witnessed);
    return {
      ...(await lastOf(sql)),
      heads: sealed.heads,
      breaks: [
        ...rows.breaks.map(
          ({ law, what, expected, found }) =>
            `${law}: ${what} — expected ${expected}, found ${found}`
        ),
        ...sealed.breaks.map(({ event, head, says }) =>
          event === undefined
            ? `The head of ${head} events: ${says}.`
            : `Event ${event} is ${says}.`
        )
      ]
    };
  } finally {
    await sql.end();
  }
}

async function lastOf(sql: Sql): Promise<Pick<Proved, 'events' | 'last'>> {
  const [row] = await sql<[{ events: number; id: number | null; at: Date }]>`
    SELECT count(*)::int AS events, max(id) AS id, max(booked_at) AS at
    FROM event
  `;
  return { events: row.events, last: row.id === null ? null : { id: row.id, at: row.at } };
}
