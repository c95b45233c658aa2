import type { Sql, Tx } from './client.ts';

/**
 * Reads in one snapshot of the database: whatever is booked meanwhile, all of it sees the same. What
 * was read is answered as soon as it is there: nothing was written, so that the end of the snapshot
 * is nobody's to wait for.
 */
export const inSnapshot = <T>(sql: Sql, work: (tx: Tx) => Promise<T>): Promise<T> =>
  new Promise((answer, fail) => {
    const read = async (tx: Tx): Promise<void> => answer(await work(tx));
    sql.begin('ISOLATION LEVEL REPEATABLE READ READ ONLY', read).catch(fail);
  });
