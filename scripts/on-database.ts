import { letGo } from './let-go.mjs';
import { connect, type Sql } from '../src/lib/server/kernel/db/client.ts';

/**
 * Does something with a database, and lets it go.
 * @param url a log-in of it
 */
export async function onDatabase<T>(url: string, work: (sql: Sql) => Promise<T>): Promise<T> {
  const sql = connect(url, { max: 2 });
  try {
    return await work(sql);
  } finally {
    await letGo(sql);
  }
}
