import { spawn, type ChildProcess } from 'node:child_process';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base } from '@playwright/test';
import { connect } from '../src/lib/server/kernel/db/client.ts';
import { copyTemplate } from '../src/lib/server/testing/copy-template.ts';
import { clusterUrls, environment, SEEDED } from './template.ts';

export { expect, type APIRequestContext, type Page } from '@playwright/test';

/** Starting reads and serves a whole build; on a busy machine that takes a while. */
const STARTED_WITHIN_MS = 180_000;

/**
 * Each worker serves Earmark from a database of its own, and each spec file has its own workers
 * (playwright.config.ts): what one file books, no other sees.
 */
export const test = base.extend<object, { settings: Record<string, string>; served: string }>({
  // What a spec file sets of the server it is served by, beside what all have.
  settings: [{}, { scope: 'worker', option: true }],
  served: [
    async ({ settings }, use, { workerIndex }) => {
      const database = `${SEEDED}_${workerIndex}`;
      await copyDemo(database);
      const port = await freePort();
      const server = serve(database, port, settings);
      const address = `http://localhost:${port}`;
      await answering(server, address);
      await use(address);
      await stopped(server);
      await dropDemo(database);
    },
    { scope: 'worker', timeout: STARTED_WITHIN_MS }
  ],
  baseURL: ({ served }, use) => use(served)
});

async function copyDemo(database: string): Promise<void> {
  const sql = connect(clusterUrls().ownerUrl, { max: 1 });
  await sql.unsafe(`DROP DATABASE IF EXISTS ${database} WITH (FORCE)`);
  await copyTemplate(sql, database, SEEDED);
  await sql.end();
}

async function dropDemo(database: string): Promise<void> {
  const sql = connect(clusterUrls().ownerUrl, { max: 1 });
  await sql.unsafe(`DROP DATABASE IF EXISTS ${database} WITH (FORCE)`);
  await sql.end();
}

/** A port nobody listens on. */
export const freePort = (): Promise<number> =>
  new Promise((done, fail) => {
    const probe = createServer().once('error', fail);
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => done(port));
    });
  });

function serve(
  database: string,
  port: number,
  settings: Readonly<Record<string, string>>
): ChildProcess {
  const data = join(process.env.EARMARK_DATA ?? tmpdir(), database);
  return spawn(process.execPath, ['scripts/start.mjs'], {
    env: {
      ...process.env,
      ...environment(database),
      ...settings,
      PORT: String(port),
      EARMARK_DATA: data
    },
    stdio: ['ignore', 'ignore', 'inherit']
  });
}

/** Until the server says that it is up; at once an error where it ended instead. */
async function answering(server: ChildProcess, address: string): Promise<void> {
  while (server.exitCode === null) {
    const up = await fetch(`${address}/api/health`).then(
      (reply) => reply.ok,
      () => false
    );
    if (up) return;
    await new Promise((go) => setTimeout(go, 100));
  }
  throw new Error(`The server of the test ended with ${server.exitCode}: see above.`);
}

const stopped = (server: ChildProcess): Promise<void> =>
  new Promise((done) => {
    // One that has ended already ends no second time.
    if (server.exitCode !== null || server.signalCode !== null) {
      done();
      return;
    }
    server.once('exit', () => done());
    server.kill('SIGTERM');
  });
