import type { Sql, Tx } from './client.ts';

/** Reads in one snapshot of the database: whatever is booked meanwhile, all of it sees the same. */
export const inSnapshot = <T>(sql: Sql, work: (tx: Tx) => Promise<T>): Promise<T> =>
  sql.begin('ISOLATION LEVEL REPEATABLE READ READ ONLY', work) as Promise<T>;
