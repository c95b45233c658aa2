import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startCluster, type Cluster } from './cluster.mjs';
import { anyFreePort } from './machine.mjs';
import { onDatabase } from './on-database.ts';

let folder: string;
let cluster: Cluster;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'earmark-let-go-'));
  chmodSync(folder, 0o755);
  cluster = await startCluster({ folder, port: await anyFreePort(), fast: true });
});
afterAll(() => {
  cluster.stop();
  rmSync(folder, { recursive: true, force: true });
});

it('a database that ends in the middle of a question is told, and let go', async () => {
  let ended = false;
  const asking = onDatabase(cluster.ownerUrl, async (sql) => {
    const sleeping = sql`SELECT pg_sleep(600)`.execute();
    while ((await asleep(sql)) === 0);
    cluster.stop();
    ended = true;
    await sleeping;
  });
  await expect(asking).rejects.toThrow();
  expect(ended).toBe(true);
});

/** How many sleep in the database. */
async function asleep(sql: Parameters<Parameters<typeof onDatabase>[1]>[0]): Promise<number> {
  const [{ count }] = await sql<[{ count: number }]>`
    SELECT count(*)::int AS count FROM pg_stat_activity WHERE wait_event = 'PgSleep'
  `;
  return count;
}
