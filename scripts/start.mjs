// `npm start`: installs what is missing, builds, starts the database, migrates, seeds the demo
// once, serves.
import { spawn } from 'node:child_process';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { buildIfStale } from './build.mjs';
import { startCluster } from './cluster.mjs';
import { letGo } from './let-go.mjs';
import { makeDataFolder, Plain, portFree } from './machine.mjs';
import { keepBackups } from './keep-backups.mjs';
import { installPackages } from './install.mjs';
import { factorKeyFile, sealKeyFile } from './own-keys.mjs';
import { proxiesOf } from './proxy-word.mjs';
import { serve, surviveLostDatabase } from './serve.mjs';

process.chdir(join(dirname(fileURLToPath(import.meta.url)), '..'));
const port = number('PORT', 4173);
const pgPort = number('EARMARK_PG_PORT', 54329);
checkSettings();
const isProxy = namedProxies();
const host = process.env.HOST ?? '127.0.0.1';
const data = resolve(process.env.EARMARK_DATA ?? '.data');
const processes = processesAsked();
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

const isHere = (address) => ['0.0.0.0', '127.0.0.1'].includes(address);

/** How many processes serve: `npm start -- --processes 2`, or EARMARK_PROCESSES. */
function processesAsked() {
  const text = options().processes ?? process.env.EARMARK_PROCESSES ?? '1';
  const count = Number(text);
  if (Number.isInteger(count) && count >= 1 && count <= 16) return count;
  console.error(`--processes is "${text}"; it must be a whole number from 1 to 16.`);
  process.exit(1);
}

function options() {
  try {
    return parseArgs({ options: { processes: { type: 'string' } } }).values;
  } catch (error) {
    console.error(
      `${error.message}. Earmark knows --processes N only; settings are in docs/operating.md.`
    );
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
      await letGo(probe);
    }
    return {
      ownerUrl: process.env.DATABASE_URL,
      appUrl: process.env.EARMARK_APP_URL ?? process.env.DATABASE_URL,
      stop: () => {}
    };
  }
  // Tests of commands start many databases, and none of them has to outlive a power cut.
  const fast = process.env.EARMARK_TEST_FAST === '1';
  return startCluster({ folder: data, port: pgPort, fast, archive: true });
}

/** Serves from this process, or from several. */
async function serveBy(close) {
  if (processes > 1) {
    const { serveMany } = await import('./serve-many.mjs');
    return serveMany({ processes, port, host, gaveUp: () => void close(1) });
  }
  const { end } = await serve({ port, host, isProxy });
  return {
    end: () => end({ patienceMs: 5_000 }),
    replace: () =>
      console.log('One process serves: start it with --processes 2 to replace it at work.')
  };
}

/** What processes that serve are told, but for the owner's password: they never learn it. */
function tellApplication(database) {
  process.env.EARMARK_APP_URL = database.appUrl;
  if (!process.env.EARMARK_APP_URL || process.env.EARMARK_APP_URL !== process.env.DATABASE_URL)
    delete process.env.DATABASE_URL;
  if (database.folder) process.env.EARMARK_OWN_DATABASE = '1';
  process.env.EARMARK_SEAL_KEY ??= sealKeyFile(data);
  process.env.EARMARK_FACTOR_KEY ??= factorKeyFile(data);
  if (processes > 1) process.env.EARMARK_POOL ??= String(Math.min(12, Math.floor(56 / processes)));
}

const portTaken = (taken) =>
  new Plain(
    `Port ${taken} is taken by another program. Stop that one, or set PORT to a free port.`
  );

async function main() {
  if (!(await portFree(port, host))) throw portTaken(port);
  makeDataFolder(data);
  installPackages();
  buildIfStale();
  const database = await openDatabase();
  const running = join(data, 'running.json');
  let isClosing = false;
  let serving = null;
  let endBackups = () => {};
  const close = async (code) => {
    if (isClosing) return;
    isClosing = true;
    console.log('Stopping …');
    endBackups();
    await serving?.end();
    rmSync(running, { force: true });
    database.stop();
    console.log('Stopped.');
    process.exit(code);
  };
  surviveLostDatabase((error) => {
    console.error(error);
    void close(1);
  });
  process.on('SIGINT', () => close(0));
  process.on('SIGTERM', () => close(0));
  // A terminal that is closed says so by the signal that has a service renew itself.
  process.on('SIGHUP', () => (process.stdin.isTTY ? close(0) : serving?.replace()));
  try {
    const env = { DATABASE_URL: database.ownerUrl, EARMARK_APP_URL: database.appUrl };
    writeFileSync(running, JSON.stringify({ ownerUrl: database.ownerUrl }), { mode: 0o600 });
    await prepare(env);
    if (isClosing) return;
    tellApplication(database);
    serving = await serveBy(close);
  } catch (error) {
    rmSync(running, { force: true });
    database.stop();
    throw error.code === 'EADDRINUSE' ? portTaken(port) : error;
  }
  tellStops();
  if (database.folder) endBackups = keepBackups(data);
  sayHowToSignIn();
  const by = processes > 1 ? `, served by ${processes} processes` : '';
  console.log(`Earmark is at http://${isHere(host) ? 'localhost' : host}:${port}${by}`);
}

main().catch((error) => {
  console.error(error instanceof Plain ? error.message : error);
  process.exit(1);
});
