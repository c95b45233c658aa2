// Earmark's own PostgreSQL cluster: made, started and stopped here. Plain JavaScript, because it
// runs before anything is installed. Never touches the system's cluster.
import { execFileSync, spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import {
  chmodSync,
  chownSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync
} from 'node:fs';
import { join, resolve } from 'node:path';
import { letGo } from './let-go.mjs';
import {
  aptInstall,
  asRoot,
  bareEnvironment,
  checkReachable,
  makeDataFolder,
  makeOwnFolder,
  Plain,
  portFree,
  serverUser
} from './machine.mjs';

const newestFirst = (a, b) => Number(b) - Number(a);

/** The folder with initdb and pg_ctl, or null where PostgreSQL is not installed. */
export function postgresBin() {
  const root = '/usr/lib/postgresql';
  const versions = existsSync(root) ? readdirSync(root).sort(newestFirst) : [];
  for (const version of versions) {
    const bin = join(root, version, 'bin');
    if (existsSync(join(bin, 'initdb')) && existsSync(join(bin, 'postgres'))) return bin;
  }
  return null;
}

function findOrInstallPostgres() {
  const found = postgresBin();
  if (found) return found;
  // Debian's package would start a cluster of its own on installing; Earmark never uses that one.
  if (asRoot && !existsSync('/etc/postgresql-common/createcluster.conf')) {
    mkdirSync('/etc/postgresql-common', { recursive: true });
    writeFileSync('/etc/postgresql-common/createcluster.conf', 'create_main_cluster = false\n');
  }
  aptInstall(['postgresql'], 'PostgreSQL');
  const bin = postgresBin();
  if (!bin)
    throw new Plain(
      "PostgreSQL was installed but its programs are not in /usr/lib/postgresql. Install Debian's package postgresql by hand."
    );
  return bin;
}

/** The cluster of a data folder. */
export const clusterOf = (folder) => join(folder, 'postgres');
/** The passwords of its two log-ins. */
export const secretFileOf = (folder) => join(folder, 'secret.json');
const hasCluster = (data) => existsSync(join(data, 'PG_VERSION'));

/** The two passwords of the database, made with it. */
function secretOf(folder) {
  const file = secretFileOf(folder);
  if (existsSync(file)) return JSON.parse(readFileSync(file, 'utf8'));
  if (hasCluster(clusterOf(folder)))
    throw new Plain(
      `${file} is missing, and with it the database's passwords. Put it back from the backup, beside the folder postgres.`
    );
  const secret = {
    owner: randomBytes(24).toString('base64url'),
    app: randomBytes(24).toString('base64url')
  };
  writeFileSync(file, JSON.stringify(secret), { mode: 0o600 });
  return secret;
}

/** Runs a program of PostgreSQL as the user the database runs as. */
const programs = (bin, user) => (program, args) =>
  execFileSync(join(bin, program), args, {
    ...user,
    cwd: '/',
    stdio: ['ignore', 'pipe', 'pipe'],
    encoding: 'utf8',
    env: bareEnvironment()
  });

function makeCluster({ data, secret, user, run, fast }) {
  rmSync(data, { recursive: true, force: true }); // what an interrupted initdb left
  makeOwnFolder(data, user);
  const passwordFile = join(data, '..', `.initial-${process.pid}`);
  writeFileSync(passwordFile, secret.owner, { mode: 0o600 });
  if (user.uid !== undefined) chownSync(passwordFile, user.uid, user.gid);
  const options = ['-U', 'earmark_owner', `--pwfile=${passwordFile}`, '--auth=scram-sha-256'];
  const language = ['--encoding=UTF8', '--locale=C.UTF-8'];
  try {
    run('initdb', ['-D', data, ...options, ...language, ...(fast ? ['--no-sync'] : [])]);
  } catch (error) {
    rmSync(data, { recursive: true, force: true });
    throw new Plain(
      `The database could not be made in ${data}: ${String(error.stderr || error.message)
        .trim()
        .split('\n')
        .at(-1)}`
    );
  } finally {
    rmSync(passwordFile, { force: true });
  }
  chmodSync(data, 0o700);
}

/** The longest path the system takes for a socket, less the name PostgreSQL gives it. */
const LONGEST_SOCKET_FOLDER = 107 - '/.s.PGSQL.65535'.length;

/**
 * Backups ask for a socket: it lies within the cluster, where only its own user gets. A folder that
 * is too deep for one, or has letters a setting cannot, goes without, and without backups.
 */
export const socketFolderOf = (data) =>
  /^[\w./-]+$/.test(data) && data.length <= LONGEST_SOCKET_FOLDER ? data : '';

const settingsOf = ({ data, port, fast, archive }) =>
  [
    `-p ${port}`,
    '-c listen_addresses=127.0.0.1',
    `-c unix_socket_directories='${socketFolderOf(data)}'`,
    '-c max_connections=80',
    '-c shared_buffers=256MB',
    '-c work_mem=32MB',
    '-c max_wal_size=2GB',
    '-c random_page_cost=1.1',
    '-c jit=off',
    `-c archive_mode=${archive ? 'on' : 'off'}`,
    ...(fast ? ['-c fsync=off', '-c full_page_writes=off'] : [])
  ].join(' ');

/** What the log of a server that did not start says of it. */
function lastFailure(log) {
  const text = existsSync(log) ? readFileSync(log, 'utf8') : '';
  const isFailure = (line) =>
    /FATAL|ERROR|could not/.test(line) && !/the database system is/.test(line);
  const failures = text.split('\n').filter(isFailure);
  return failures.at(-1) ?? '';
}

/** Takes away what a server that was killed left behind to say that it runs. */
function forget(data) {
  const left = readdirSync(data).filter((name) => name.startsWith('.s.PGSQL.'));
  for (const name of ['postmaster.pid', ...left]) rmSync(join(data, name), { force: true });
}

/** The server of a cluster: whether it runs, and how it is started and stopped. */
function serverOf({ bin, data, user, run, settings, patience }) {
  const log = join(data, 'server.log');
  const pidFile = join(data, 'postmaster.pid');
  const pidLines = () => readFileSync(pidFile, 'utf8').split('\n');
  const pid = () => (existsSync(pidFile) ? Number(pidLines()[0]) : null);
  // In a container whose first process reaps nobody a killed server stays as a zombie, and its lock
  // files would keep the next from starting.
  const isZombie = () =>
    pid() !== null &&
    existsSync(`/proc/${pid()}/stat`) &&
    / Z /.test(readFileSync(`/proc/${pid()}/stat`, 'utf8'));
  const isRunning = () =>
    !isZombie() &&
    spawnSync(join(bin, 'pg_ctl'), ['-D', data, 'status'], { ...user, cwd: '/' }).status === 0;
  const whyNot = () => `The database did not start. ${lastFailure(log)}\nIts log is ${log}.`;
  const start = () => {
    if (isZombie()) forget(data);
    try {
      run('pg_ctl', ['-D', data, '-l', log, '-w', '-t', patience, '-o', settings, 'start']);
    } catch {
      throw new Plain(whyNot());
    }
  };
  const stop = () => {
    if (!isRunning()) return;
    try {
      run('pg_ctl', ['-D', data, '-m', 'fast', '-w', '-t', '30', 'stop']);
    } catch {
      // it recovers at the next start
      run('pg_ctl', ['-D', data, '-m', 'immediate', '-w', '-t', '30', 'stop']);
    }
  };
  return { log, pid, isRunning, whyNot, runningPort: () => Number(pidLines()[3]), start, stop };
}

/** The port of the server that runs on a folder's cluster; null where none does. */
export function runningPort(folder) {
  const bin = postgresBin();
  const data = clusterOf(folder);
  if (bin === null || !hasCluster(data)) return null;
  const server = serverOf({ bin, data, user: serverUser() });
  return server.isRunning() ? server.runningPort() : null;
}

/**
 * What a server answers that will be ready soon, or ends: "starting up", "shutting down", nothing
 * yet, or nothing any more. Which it is, is asked of the server itself.
 */
const NOT_YET = ['57P03', '57P01', 'ECONNREFUSED', 'ECONNRESET', 'CONNECTION_CLOSED'];
const pause = (ms) => new Promise((go) => setTimeout(go, ms));

/** Waits until it may be written: one that still replays a backup's log can be read already. */
async function untilReady(sql, server, patience) {
  const end = Date.now() + patience * 1000;
  for (;;) {
    try {
      const [{ replays }] = await sql`SELECT pg_is_in_recovery() AS replays`;
      if (!replays) return;
    } catch (error) {
      if (!server.isRunning()) throw new Plain(server.whyNot());
      if (!NOT_YET.includes(error.code)) throw error;
    }
    if (Date.now() > end) throw new Plain(`The database was not ready after ${patience} seconds.`);
    await pause(200);
  }
}

/** The database and its log-ins, where they are not there yet; the application's password is set. */
async function makeDatabase(url, appPassword, server, patience) {
  // With the pg_ctl of the cluster itself there is no psql yet to lean on; Postgres.js is installed
  // by now.
  const { default: postgres } = await import('postgres');
  const sql = postgres(url, { max: 1, onnotice: () => {}, connect_timeout: 10 });
  try {
    await untilReady(sql, server, patience);
    const [exists] = await sql`SELECT 1 FROM pg_database WHERE datname = 'earmark'`;
    if (!exists) await sql`CREATE DATABASE earmark`;
    for (const role of ['earmark_app', 'earmark_ledger'])
      await sql.unsafe(
        `DO $$ BEGIN IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = '${role}') THEN CREATE ROLE ${role}; END IF; END $$`
      );
    // base64url: no quote can be in it
    await sql.unsafe(`ALTER ROLE earmark_app LOGIN NOSUPERUSER PASSWORD '${appPassword}'`);
    await keepNothingYet(sql);
  } catch (error) {
    if (error instanceof Plain) throw error;
    throw new Plain(`The database does not answer (${error.message}). Its log is ${server.log}.`);
  } finally {
    await letGo(sql);
  }
}

/** Until backups are set up nothing is kept for them: PostgreSQL would pile it up otherwise. */
async function keepNothingYet(sql) {
  const [{ command }] = await sql`
    SELECT setting AS command FROM pg_settings WHERE name = 'archive_command'
  `;
  if (command !== '') return;
  await sql`ALTER SYSTEM SET archive_command = '/bin/true'`;
  await sql`SELECT pg_reload_conf()`;
}

/**
 * Makes the cluster in `folder` if it is not there, starts it on `port` of the loopback address and
 * makes the database.
 * @param {{ folder: string, port: number, fast?: boolean, archive?: boolean, patience?: number }} options
 * `fast`: for tests, gives up durability against power loss; `archive`: what is written may be kept
 * for backups, where it is not fast if nothing is said; `patience`: seconds it may take until it is ready
 * @returns {Promise<{ ownerUrl: string, appUrl: string, startedHere: boolean, stop: () => void,
 * pid: () => number | null, restart: () => void, folder: string }>}
 */
export async function startCluster({ folder: given, port, fast, archive = !fast, patience = 60 }) {
  const folder = resolve(given);
  makeDataFolder(folder);
  const bin = findOrInstallPostgres();
  const user = serverUser();
  checkReachable(folder, user);
  const data = clusterOf(folder);
  const run = programs(bin, user);
  const secret = secretOf(folder);
  if (!hasCluster(data)) makeCluster({ data, secret, user, run, fast });

  const settings = settingsOf({ data, port, fast, archive });
  const server = serverOf({ bin, data, user, run, settings, patience: String(patience) });
  const startedHere = !server.isRunning(); // else it is left over from a start that was killed
  if (startedHere) {
    if (!(await portFree(port)))
      throw new Plain(
        `Port ${port}, meant for the database, is taken by another program. Set EARMARK_PG_PORT to a free one.`
      );
    server.start();
  }
  const at = `127.0.0.1:${startedHere ? port : server.runningPort()}`;
  const owner = `postgres://earmark_owner:${secret.owner}@${at}`;
  await makeDatabase(`${owner}/postgres`, secret.app, server, patience);
  return {
    ownerUrl: `${owner}/earmark`,
    appUrl: `postgres://earmark_app:${secret.app}@${at}/earmark`,
    startedHere,
    stop: server.stop,
    pid: server.pid,
    restart: server.start,
    folder
  };
}
