import type { Db } from './client.ts';

/** Most milliseconds the database may take to say that it is there. */
const MOST_MS = 3000;

/** @throws where the database does not answer in three seconds */
export async function requireAlive(db: Db): Promise<void> {
  const late = new Promise((_, fail) => setTimeout(() => fail(new Error('late')), MOST_MS).unref());
  await Promise.race([db`SELECT 1`, late]);
}
