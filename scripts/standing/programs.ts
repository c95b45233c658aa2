// What each machine of the stand runs, by the files of deploy/cluster and Debian's programs.
import { randomBytes } from 'node:crypto';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync
} from 'node:fs';
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { Plain } from '../machine.mjs';
import { factorKeyFile, sealKeyFile } from '../own-keys.mjs';
import { caddy } from '../caddy.ts';
import { fill } from './fill.ts';
import { service, type Service } from './service.ts';
import { addressOf, LEDGER_MACHINES, NETWORK, SERVING_MACHINES, type Machine } from './machines.ts';

/** Whoever the database and what goes with it run as. */
export const USER = 'postgres';
export const POSTGRES_BIN = '/usr/lib/postgresql/15/bin';
const TEMPLATES = 'deploy/cluster';
export const APP_PORT = 4173;
/** Where people come in. */
export const FRONT = `http://${addressOf('front')}:8080`;

/** Words no person has to remember. */
const secret = (): string => randomBytes(18).toString('hex');

export interface Secrets {
  superuser: string;
  replication: string;
  owner: string;
  app: string;
  token: string;
}
export const makeSecrets = (): Secrets => ({
  superuser: secret(),
  replication: secret(),
  owner: secret(),
  app: secret(),
  token: secret()
});

/** A machine's own folder of the stand. */
export const folderOf = (stand: string, machine: Machine): string => join(stand, machine);
export const filesOf = (stand: string, machine: Machine): string =>
  join(folderOf(stand, machine), 'etc');
/** What its PostgreSQL keeps lies on it; a disk of its own where one is made. */
export const diskOf = (stand: string, machine: Machine): string =>
  join(folderOf(stand, machine), 'postgres');
export const dataOf = (stand: string, machine: Machine): string =>
  join(diskOf(stand, machine), 'data');

/** What a machine is told, as machine.env says it on one of its own. */
function wordsOf(stand: string, machine: Machine, secrets: Secrets): Record<string, string> {
  const own = folderOf(stand, machine);
  return {
    NAME: machine,
    ADDRESS: addressOf(machine),
    A: addressOf('a'),
    B: addressOf('b'),
    C: addressOf('c'),
    NETWORK,
    ETCD_DATA: join(own, 'etcd'),
    POSTGRES_DATA: dataOf(stand, machine),
    POSTGRES_SOCKET: join(own, 'socket'),
    POSTGRES_BIN,
    CLUSTER_FILES: filesOf(stand, machine),
    BACKUPS: join(stand, 'backups'),
    PGBACKREST_LOG: join(own, 'log'),
    SUPERUSER_PASSWORD: secrets.superuser,
    REPLICATION_PASSWORD: secrets.replication,
    OWNER_PASSWORD: secrets.owner,
    APP_PASSWORD: secrets.app
  };
}

/** Makes a machine's folders, and writes what its programs are told. */
export function furnish(stand: string, machine: Machine, secrets: Secrets): void {
  const own = folderOf(stand, machine);
  for (const name of ['etc', 'etcd', 'postgres', 'socket', 'log', 'data'])
    mkdirSync(join(own, name), { recursive: true, mode: 0o750 });
  const words = wordsOf(stand, machine, secrets);
  for (const name of readdirSync(TEMPLATES)) {
    if (name === 'machine.env') continue;
    const filled = fill(readFileSync(join(TEMPLATES, name), 'utf8'), words);
    writeFileSync(join(own, 'etc', name), filled, { mode: 0o600 });
  }
  give(own);
  // What the application keeps is its own.
  spawnSync('chown', ['-R', 'root:root', join(own, 'data')]);
}

/** Makes a folder and all in it the database's. */
function give(folder: string): void {
  spawnSync('chown', ['-R', `${USER}:${USER}`, folder]);
  chmodSync(folder, 0o755);
}

/** Lies in a folder that is a stand's: what is in it may be thrown away. */
const MARK = '.earmark-cluster';

/**
 * Makes the folder of a stand, empty but for what all share.
 * @throws Plain where there is one already that is no stand's
 */
export function makeFolder(stand: string): void {
  if (existsSync(stand) && readdirSync(stand).length > 0 && !existsSync(join(stand, MARK)))
    throw new Plain(
      `${stand} has something in it that is not of a cluster, and would be emptied. Name another by --folder.`
    );
  rmSync(stand, { recursive: true, force: true });
  mkdirSync(join(stand, 'backups'), { recursive: true });
  writeFileSync(join(stand, MARK), '');
  give(stand);
}

const keeping = (stand: string, machine: Machine) => {
  // A word that begins with @ is a file of the machine.
  const said = (word: string): string =>
    word.startsWith('@') ? join(filesOf(stand, machine), word.slice(1)) : word;
  return (
    name: string,
    command: readonly string[],
    more: { user?: string; env?: Record<string, string> } = {}
  ): Service =>
    service({
      machine,
      name,
      user: more.user ?? USER,
      command: command.map(said),
      log: join(folderOf(stand, machine), 'log', `${name}.log`),
      ...(more.env ? { env: more.env } : {})
    });
};

/** etcd and Patroni, which runs PostgreSQL. */
export function ledgerServices(stand: string): Service[] {
  return LEDGER_MACHINES.flatMap((machine) => {
    const keep = keeping(stand, machine);
    return [
      keep('etcd', ['/usr/bin/etcd', '--config-file', '@etcd.yml']),
      keep('patroni', ['/usr/bin/patroni', '@patroni.yml'])
    ];
  });
}

/** HAProxy, PgBouncer and Earmark. */
export function servingServices(stand: string, secrets: Secrets): Service[] {
  return SERVING_MACHINES.flatMap((machine) => {
    const keep = keeping(stand, machine);
    return [
      // It lets go of root by itself, once it listens.
      keep('haproxy', ['/usr/sbin/haproxy', '-db', '-f', '@haproxy.cfg'], { user: 'root' }),
      keep('pgbouncer', ['/usr/sbin/pgbouncer', '@pgbouncer.ini']),
      keep('earmark', [process.execPath, 'scripts/start.mjs'], {
        user: 'root',
        env: settingsOf(stand, machine, secrets)
      })
    ];
  });
}

const urlOf = (login: string, password: string, at: string): string =>
  `postgres://${login}:${password}@${at}/earmark`;

/** The database as its owner asks it, through a serving machine. */
export const ownerUrl = (secrets: Secrets, machine: Machine = 'd'): string =>
  urlOf('earmark_owner', secrets.owner, `${addressOf(machine)}:5000`);

/** Earmark's settings (docs/operating.md); the two keys are the same on all machines that serve. */
function settingsOf(stand: string, machine: Machine, secrets: Secrets): Record<string, string> {
  const at = addressOf(machine);
  return {
    HOST: at,
    PORT: String(APP_PORT),
    EARMARK_PROXY: addressOf('front'),
    EARMARK_DATA: join(folderOf(stand, machine), 'data'),
    DATABASE_URL: ownerUrl(secrets, machine),
    EARMARK_APP_URL: urlOf('earmark_app', secrets.app, `${at}:6432`),
    EARMARK_SEED: 'none',
    EARMARK_TOKEN: secrets.token,
    EARMARK_SEAL_KEY: sealKeyFile(stand),
    EARMARK_FACTOR_KEY: factorKeyFile(stand)
  };
}

/** Caddy, as deploy/Caddyfile has it, without TLS: this network is within one machine. */
export function frontService(stand: string): Service {
  const own = folderOf(stand, 'front');
  const at = SERVING_MACHINES.map((machine) => `${addressOf(machine)}:${APP_PORT}`).join(' ');
  const command = [caddy(), 'run', '--config', 'deploy/Caddyfile'];
  return keeping(stand, 'front')('caddy', [...command, '--adapter', 'caddyfile'], {
    user: 'root',
    env: { HOME: own, XDG_DATA_HOME: own, EARMARK_HOST: FRONT, EARMARK_AT: at }
  });
}
