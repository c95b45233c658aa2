import type { Sql } from '../../src/lib/server/kernel/db/client.ts';
import { reconcile } from '../../src/lib/server/ledger/reconcile.ts';
import type { Acknowledged } from './load.ts';

/** What stands in the ledger of a booking. */
export interface Stands {
  document: string;
  events: number;
  movements: number;
}

export interface Judged {
  /** Acknowledged, and not there. */
  lost: string[];
  /** There more than once. */
  doubled: string[];
  /** There, and not with all its rows, acknowledged or not. */
  half: string[];
}

/**
 * Compares what was acknowledged with what stands.
 * @param movementsEach how many rows each booking writes
 */
export function judge(
  acknowledged: readonly Pick<Acknowledged, 'document'>[],
  stands: readonly Stands[],
  movementsEach: number
): Judged {
  const there = new Set(stands.map(({ document }) => document));
  const documentsOf = (wrong: (one: Stands) => boolean) =>
    stands.filter(wrong).map(({ document }) => document);
  return {
    lost: acknowledged.map(({ document }) => document).filter((one) => !there.has(one)),
    doubled: documentsOf(({ events }) => events > 1),
    half: documentsOf(({ events, movements }) => movements !== events * movementsEach)
  };
}

/** What stands of the load, and what is wrong with the ledger by its own rows. */
export async function readLedger(sql: Sql): Promise<{ stands: Stands[]; breaks: number }> {
  const stands = await sql<Stands[]>`
    SELECT e.document, count(DISTINCT e.id)::int AS events, count(m.id)::int AS movements
    FROM event e
    LEFT JOIN movement m ON m.event_id = e.id
    WHERE e.document LIKE 'LOAD-%'
    GROUP BY e.document
  `;
  const { breaks } = await reconcile(sql);
  return { stands: [...stands], breaks: breaks.length };
}
