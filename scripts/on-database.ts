import { readFileSync } from 'node:fs';
import { join } from 'node:path';
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

/** Asks the database of a data folder as its owner, beside the Earmark that serves from it. */
export function asOwnerOf<T>(
  data: string,
  work: (sql: Sql, url: string) => Promise<T>
): Promise<T> {
  const text = readFileSync(join(data, 'running.json'), 'utf8');
  const { ownerUrl } = JSON.parse(text) as { ownerUrl: string };
  return onDatabase(ownerUrl, (sql) => work(sql, ownerUrl));
}
