import type { Db } from './client.ts';

interface Counted {
  count: number;
  /** The newest event there was before it was counted. */
  newest: number | null;
  /** Milliseconds of `performance.now()`. */
  at: number;
}

/** While others book all the time, a count is so old at most. */
const FRESH_MS = 1_000;
/**
 * While nobody books it is asked for again after so long all the same: two bookings at once may be
 * committed in another order than their events are numbered.
 */
const GOOD_FOR_MS = 10_000;

/** Of each pool of connections, as each is of a database of its own. */
const countsOf = new WeakMap<Db, Map<string, Counted>>();

/**
 * A count over the whole ledger that costs more than the list it stands beside, kept in memory for
 * as long as nothing is booked.
 * @param name what is counted
 * @param work counts it
 * @param options.freshMs how old it may be while others book
 */
export async function keptCount(
  db: Db,
  name: string,
  work: () => Promise<number>,
  { freshMs = FRESH_MS } = {}
): Promise<number> {
  const kept = countsOf.get(db)?.get(name);
  const age = kept ? performance.now() - kept.at : Infinity;
  if (kept && age < freshMs) return kept.count;
  const newest = await newestEvent(db);
  if (kept && age < GOOD_FOR_MS && newest === kept.newest) return kept.count;
  const at = performance.now();
  const count = await work();
  keep(db, name, { count, newest, at });
  return count;
}

async function newestEvent(db: Db): Promise<number | null> {
  const [row] = await db<[{ newest: number | null }]>`SELECT max(id) AS newest FROM event`;
  return row.newest;
}

function keep(db: Db, name: string, counted: Counted): void {
  const counts = countsOf.get(db) ?? new Map<string, Counted>();
  counts.set(name, counted);
  countsOf.set(db, counts);
}
