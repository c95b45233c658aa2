// `npm start`: installs what is missing, builds, starts the database, migrates, seeds the demo
// once, serves.
import { spawn } from 'node:child_process';
import { generateKeyPairSync, randomBytes } from 'node:crypto';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { buildIfStale } from './build.mjs';
import { startCluster } from './cluster.mjs';
import { makeDataFolder, Plain, portFree } from './machine.mjs';
import { drainAfter } from './drain.mjs';
import { keepBackups } from './keep-backups.mjs';
import { installPackages } from './install.mjs';
import { ADDRESS_HEADER, hear, proxiesOf } from './proxy-word.mjs';

process.chdir(join(dirname(fileURLToPath(import.meta.url)), '..'));
const port = number('PORT', 4173);
const pgPort = number('EARMARK_PG_PORT', 54329);
checkSettings();
const isProxy = namedProxies();
const host = process.env.HOST ?? '127.0.0.1';
const data = resolve(process.env.EARMARK_DATA ?? '.data');
const notesFile = join(data, 'first-sign-in.json');

function number(name, fallback) {
  const value = Number(process.env[name] ?? fallback);
  if (!Number.isInteger(value) || value < 1 || value > 65_535) {
    console.error(`${name} is "${process.env[name]}"; it must be a port number from 1 to 65535.`);
    process.exit(1);
  }
  return value;
}

function namedProxies() {
  try {
    return proxiesOf(process.env.EARMARK_PROXY);
  } catch (error) {
    console.error(error.message);
    process.exit(1);
  }
}

/** Numbers that settings may be; one that cannot be read is said at once, not passed over. */
function checkSettings() {
  const LIMITS = [
    ['EARMARK_POOL', 1, 500],
    ['EARMARK_INDEX_MB', 1, 1_048_576],
    ['EARMARK_INDEX_THREADS', 1, 16],
    ['EARMARK_GS1_PREFIX_DIGITS', 6, 12]
  ];
  for (const [name, least, most] of LIMITS) {
    const text = process.env[name];
    if (text === undefined || text === '') continue;
    const value = Number(text);
    if (Number.isInteger(value) && value >= least && value <= most) continue;
    console.error(`${name} is "${text}"; it must be a whole number from ${least} to ${most}.`);
    process.exit(1);
  }
}

/** Whether this start made the password. */
let isFirst = false;

/**
 * Runs scripts/prepare.ts; keeps the first password in the data folder, and says it at this start
 * only: a log that is kept or sent on should not have it.
 */
function prepare(env) {
  return new Promise((done, fail) => {
    const child = spawn(process.execPath, ['--import', 'tsx', 'scripts/prepare.ts'], {
      env: { ...process.env, ...env },
      stdio: ['ignore', 'pipe', 'pipe']
    });
    let rest = '',
      failure = '';
    child.stdout.on('data', (chunk) => {
      const lines = (rest + chunk).split('\n');
      rest = lines.pop();
      for (const line of lines) {
        const note = /^NOTE (\S+) (\S+)$/.exec(line);
        if (note) {
          isFirst = true;
          writeFileSync(notesFile, JSON.stringify({ kind: note[1], password: note[2] }), {
            mode: 0o600
          });
        } else console.log(line);
      }
    });
    child.stderr.on('data', (chunk) => {
      failure += chunk;
    });
    child.on('exit', (code) =>
      code === 0
        ? done()
        : fail(
            new Plain(
              failure.replace(/^FAILED /m, '').trim() || 'The database could not be prepared.'
            )
          )
    );
  });
}

/** A key in the data folder, made once, for its owner only. */
function keyFile(name, make) {
  const file = join(data, name);
  if (!existsSync(file)) writeFileSync(file, make(), { mode: 0o600 });
  return file;
}

/** The key the ledger's heads are signed with. */
const sealKeyFile = () =>
  keyFile('seal-key.pem', () =>
    generateKeyPairSync('ed25519').privateKey.export({ type: 'pkcs8', format: 'pem' })
  );

/** The key that secrets of time codes are kept locked with. */
const factorKeyFile = () => keyFile('factor-key', () => randomBytes(32).toString('hex'));

function sayHowToSignIn() {
  if (!existsSync(notesFile)) return;
  const { kind, password } = JSON.parse(readFileSync(notesFile, 'utf8'));
  const said = isFirst ? `is ${password}` : `stands in ${notesFile}`;
  if (kind === 'demo-password')
    console.log(
      `Sign in as wilf (coordinator), ines, tomas, priya, marit, elis, noor or admin; the demo's password ${said}`
    );
  else
    console.log(
      `Sign in as admin; the password ${said}. Change it in Setup. (It is kept in ${notesFile}; delete that file then.)`
    );
}

/** Tells whoever started it as a part of theirs (serve-apart.mjs) how long it served nobody at most. */
function tellStops() {
  if (!process.send) return;
  const delay = monitorEventLoopDelay({ resolution: 5 });
  delay.enable();
  process.on('message', () => {
    process.send({ longestMs: delay.max / 1e6 });
    delay.reset();
  });
}

/** Where DATABASE_URL names a server, it is used and none is started. */
async function openDatabase() {
  if (process.env.DATABASE_URL) {
    const { default: postgres } = await import('postgres');
    const probe = postgres(process.env.DATABASE_URL, {
      max: 1,
      connect_timeout: 10,
      onnotice: () => {}
    });
    try {
      await probe`SELECT 1`;
    } catch (error) {
      throw new Plain(
        `The database named by DATABASE_URL does not answer (${error.code ?? error.message}). Start it, or unset DATABASE_URL to let Earmark run its own.`
      );
    } finally {
      await probe.end({ timeout: 1 });
    }
    return {
      ownerUrl: process.env.DATABASE_URL,
      appUrl: process.env.EARMARK_APP_URL ?? process.env.DATABASE_URL,
      stop: () => {}
    };
  }
  return startCluster({ folder: data, port: pgPort });
}

async function main() {
  if (!(await portFree(port, host)))
    throw new Plain(
      `Port ${port} is taken by another program. Stop that one, or set PORT to a free port.`
    );
  makeDataFolder(data);
  installPackages();
  buildIfStale();
  const database = await openDatabase();
  const running = join(data, 'running.json');
  let closing = false;
  let server, application;
  let endBackups = () => {};
  const close = async (code) => {
    if (closing) return;
    closing = true;
    console.log('Stopping …');
    endBackups();
    globalThis.earmarkEndNews?.();
    if (server)
      await new Promise((done) => {
        server.close(done);
        server.closeIdleConnections();
        setTimeout(() => {
          server.closeAllConnections();
        }, 5000).unref();
      });
    await globalThis.earmarkStopEngines?.();
    await globalThis.earmarkClose?.();
    rmSync(running, { force: true });
    database.stop();
    console.log('Stopped.');
    process.exit(code);
  };
  // When the database dies under a booking, Postgres.js throws outside of any call (it writes to a
  // socket that is gone).
  // The pool is thrown away, what waited on it is refused, and the next request opens a new one.
  const survive = (error) => {
    const lost =
      /^(CONNECTION_|ECONN|57P|08)/.test(error?.code ?? '') ||
      /[\\/]postgres[\\/]src[\\/]connection\.js|Socket|nextWrite/.test(
        String(error?.stack ?? '').split('\n')[1] ?? ''
      );
    if (!lost) {
      console.error(error);
      void close(1);
      return;
    }
    console.error(`Lost the connection to the database (${error.code ?? error.message}).`);
    globalThis.earmarkRenew?.();
  };
  process.on('unhandledRejection', survive);
  process.on('uncaughtException', survive);
  process.on('SIGINT', () => close(0));
  process.on('SIGTERM', () => close(0));
  try {
    const env = { DATABASE_URL: database.ownerUrl, EARMARK_APP_URL: database.appUrl };
    writeFileSync(running, JSON.stringify({ ownerUrl: database.ownerUrl }), { mode: 0o600 });
    await prepare(env);
    if (closing) return;
    // The application itself never learns the owner's password.
    process.env.EARMARK_APP_URL = database.appUrl;
    if (!process.env.EARMARK_APP_URL || process.env.EARMARK_APP_URL !== process.env.DATABASE_URL)
      delete process.env.DATABASE_URL;
    process.env.BODY_SIZE_LIMIT ??= '16M';
    process.env.EARMARK_THREADS = resolve('build/threads');
    if (database.folder) process.env.EARMARK_OWN_DATABASE = '1';
    process.env.EARMARK_SEAL_KEY ??= sealKeyFile();
    process.env.EARMARK_FACTOR_KEY ??= factorKeyFile();
    process.env.PROTOCOL_HEADER = 'x-forwarded-proto';
    process.env.ADDRESS_HEADER = ADDRESS_HEADER;
    ({ handler: application } = await import(pathToFileURL(resolve('build/handler.js')).href));
    server = createServer((request, response) => {
      hear(request, isProxy);
      drainAfter(request, response);
      if (globalThis.earmarkAnswerKept?.(request, response)) return;
      application(request, response, () => {
        response.statusCode = 404;
        response.end('Not found');
      });
    });
    server.keepAliveTimeout = 30_000;
    await new Promise((done, fail) => server.once('error', fail).listen(port, host, done));
  } catch (error) {
    rmSync(running, { force: true });
    database.stop();
    throw error.code === 'EADDRINUSE'
      ? new Plain(
          `Port ${port} is taken by another program. Stop that one, or set PORT to a free port.`
        )
      : error;
  }
  tellStops();
  if (database.folder) endBackups = keepBackups(data);
  sayHowToSignIn();
  console.log(
    `Earmark is at http://${host === '0.0.0.0' || host === '127.0.0.1' ? 'localhost' : host}:${port}`
  );
}

main().catch((error) => {
  console.error(error instanceof Plain ? error.message : error);
  process.exit(1);
});
