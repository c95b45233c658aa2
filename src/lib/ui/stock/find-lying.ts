import type { Snapshot } from '../../core/ledger/snapshot.ts';
import type { Lying } from '../../core/stock/lying.ts';
import type { LyingAskedFor } from '../../core/stock/lying-known.ts';
import { messagesOf, send } from '../frame/api.ts';

/** What lies where, and how much of it there is in all. */
export interface FoundLying {
  rows: Lying[];
  total: number;
  /** By what this device knows, as there is no line: it may not be all. */
  isOfDevice: boolean;
}

export type FindLying = (asked: LyingAskedFor) => Promise<FoundLying | { wrong: string }>;

/**
 * Where things lie: as Earmark says, and without a line as it is known here.
 * @param known what this device keeps; null where it keeps nothing
 */
export async function findLying(
  asked: LyingAskedFor,
  known: () => Promise<Snapshot | null>
): Promise<FoundLying | { wrong: string }> {
  const reply = await send<{ rows: Lying[]; total: number }>('POST', '/api/v1/lying', asked);
  if (reply.ok) return { ...reply.body, isOfDevice: false };
  const rows = reply.refusal.status === 0 ? await lyingHere(asked, known).catch(() => null) : null;
  if (!rows) return { wrong: messagesOf(reply.refusal).join(' ') };
  return { rows, total: rows.length, isOfDevice: true };
}

/** By what is kept; fails where not all of the application is on this device yet. */
async function lyingHere(
  asked: LyingAskedFor,
  known: () => Promise<Snapshot | null>
): Promise<Lying[] | null> {
  const here = await known();
  if (!here) return null;
  const { lyingKnown } = await import('../../core/stock/lying-known.ts');
  return lyingKnown(here, asked);
}
