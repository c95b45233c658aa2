// Serves the built application with a fresh demo, or from a data folder that is there, apart from
// everything else, for what measures or attacks it from outside.
import { fork } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { anyFreePort } from './machine.mjs';

/**
 * @param {{ token: string, password?: string, folder?: string }} given a token with every right, and
 * the demo's password; `folder` is served as it is and stays
 * @returns {Promise<{ port: number, folder: string, longestStop: () => Promise<number>, stop: () => Promise<void> }>}
 * `longestStop`: the longest time in milliseconds the event loop served nobody since it was last asked
 */
export async function serveApart({ token, password = 'harbour-lantern', folder }) {
  const port = await anyFreePort();
  const data = folder ?? freshFolder();
  const { DATABASE_URL: _, EARMARK_APP_URL: __, ...rest } = process.env;
  const env = {
    ...rest,
    PORT: String(port),
    EARMARK_PG_PORT: String(await anyFreePort()),
    EARMARK_DATA: data,
    EARMARK_TOKEN: token,
    EARMARK_SEED: 'demo',
    EARMARK_DEMO_PASSWORD: password
  };
  const server = fork('scripts/start.mjs', {
    env,
    execArgv: [],
    stdio: ['ignore', 'ignore', 'inherit', 'ipc']
  });
  await healthy(server, port);
  return {
    port,
    folder: data,
    longestStop: () =>
      new Promise((told) => {
        server.once('message', ({ longestMs }) => told(longestMs));
        server.send('longest stop');
      }),
    stop: async () => {
      if (server.exitCode === null && server.signalCode === null)
        await new Promise((ended) => server.once('exit', ended).kill('SIGTERM'));
      if (!folder) rmSync(data, { recursive: true, force: true });
    }
  };
}

function freshFolder() {
  const data = mkdtempSync(join(tmpdir(), 'earmark-apart-'));
  // PostgreSQL must be able to enter it where it runs as a user of its own.
  chmodSync(data, 0o755);
  return data;
}

async function healthy(server, port) {
  while (server.exitCode === null) {
    const up = await fetch(`http://127.0.0.1:${port}/api/health`).then(
      (reply) => reply.ok,
      () => false
    );
    if (up) return;
    await new Promise((go) => setTimeout(go, 200));
  }
  throw new Error('The application did not start.');
}
