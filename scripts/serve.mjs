// The built application, served by this process.
import { createServer } from 'node:http';
import { resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { beginInTurns } from './begin-in-turns.mjs';
import { drainAfter } from './drain.mjs';
import { ADDRESS_HEADER, hear } from './proxy-word.mjs';

/** A connection nobody uses is kept so long for whoever comes back on it. */
const KEEP_ALIVE_MS = 30_000;

/** What the application is told of where it runs. */
function sayWhere() {
  process.env.BODY_SIZE_LIMIT ??= '16M';
  process.env.EARMARK_THREADS = resolve('build/threads');
  process.env.PROTOCOL_HEADER = 'x-forwarded-proto';
  process.env.ADDRESS_HEADER = ADDRESS_HEADER;
}

/**
 * Serves until it is ended.
 * @param {{ port: number, host: string, isProxy: (address: string) => boolean }} options
 * @returns {Promise<{ end: (how: { patienceMs: number, gently?: boolean }) => Promise<void> }>}
 * `end` answers what was asked and takes nothing new. Gently: others take what comes next, so a
 * connection in use is closed with its next answer and not under a request that is on its way.
 */
export async function serve({ port, host, isProxy }) {
  sayWhere();
  const { handler } = await import(pathToFileURL(resolve('build/handler.js')).href);
  let isEnding = false;
  const begin = beginInTurns((request, response) => {
    if (globalThis.earmarkAnswerKept?.(request, response)) return;
    handler(request, response, () => {
      response.statusCode = 404;
      response.end('Not found');
    });
  });
  const server = createServer((request, response) => {
    hear(request, isProxy);
    drainAfter(request, response);
    if (isEnding) response.setHeader('connection', 'close');
    begin(request, response);
  });
  server.keepAliveTimeout = KEEP_ALIVE_MS;
  await new Promise((done, fail) => server.once('error', fail).listen(port, host, done));

  async function end({ patienceMs, gently = false }) {
    if (isEnding) return;
    isEnding = true;
    globalThis.earmarkEndNews?.();
    // Node.js would close what waits for its next request, which may be on its way.
    if (gently) server.closeIdleConnections = () => {};
    await new Promise((done) => {
      server.close(done);
      setTimeout(() => server.closeAllConnections(), patienceMs).unref();
    });
    await globalThis.earmarkStopEngines?.();
    await globalThis.earmarkClose?.();
  }
  return { end };
}

/**
 * When the database dies under a booking, Postgres.js throws outside of any call (it writes to a
 * socket that is gone). The pool is thrown away, what waited on it is refused, and the next request
 * opens a new one.
 * @param {(error: Error) => void} otherwise is given what it was not
 */
export function surviveLostDatabase(otherwise) {
  const isLost = (error) =>
    /^(CONNECTION_|ECONN|57P|08)/.test(error?.code ?? '') ||
    /[\\/]postgres[\\/]src[\\/]connection\.js|Socket|nextWrite/.test(
      String(error?.stack ?? '').split('\n')[1] ?? ''
    );
  const survive = (error) => {
    if (!isLost(error)) return otherwise(error);
    // What is refused with a pool that was thrown away says no more than that it was.
    if (error.code === 'CONNECTION_DESTROYED') return;
    console.error(`Lost the connection to the database (${error.code ?? error.message}).`);
    globalThis.earmarkRenew?.();
  };
  process.on('unhandledRejection', survive);
  process.on('uncaughtException', survive);
}
