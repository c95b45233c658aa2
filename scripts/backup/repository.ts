import { spawnSync } from 'node:child_process';
import { existsSync, statfsSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { clusterOf, socketFolderOf } from '../cluster.mjs';
import {
  aptInstall,
  bareEnvironment,
  checkReachable,
  makeOwnFolder,
  Plain,
  serverUser
} from '../machine.mjs';

const PROGRAM = '/usr/bin/pgbackrest';
const STANZA = 'earmark';
const WEEKS = 4;

/** Where backups of a data folder lie, and how pgBackRest is told of it. */
export interface Repository {
  /** The data folder. */
  data: string;
  /** Its cluster. */
  cluster: string;
  /** The folder of backups; best on another disk. */
  folder: string;
  /** What pgBackRest reads of all this. */
  settings: string;
}

/** One backup, by its name. Times are in milliseconds. */
export interface Backup {
  label: string;
  isFull: boolean;
  startedAt: number;
  endedAt: number;
  /** Bytes of the database it brings back. */
  bytes: number;
}

/** The repository by the settings of the environment: EARMARK_DATA, EARMARK_BACKUP. */
export function repositoryOf(env: NodeJS.ProcessEnv = process.env): Repository {
  const data = resolve(env.EARMARK_DATA ?? '.data');
  const folder = resolve(env.EARMARK_BACKUP || join(data, 'backup'));
  return {
    data,
    cluster: clusterOf(data),
    folder,
    settings: join(folder, 'pgbackrest.conf')
  };
}

/** How many weeks backups are kept, by EARMARK_BACKUP_WEEKS. */
export function weeksOf(env: NodeJS.ProcessEnv = process.env): number {
  const text = env.EARMARK_BACKUP_WEEKS ?? '';
  const weeks = text === '' ? WEEKS : Number(text);
  if (Number.isInteger(weeks) && weeks >= 1 && weeks <= 520) return weeks;
  throw new Plain(
    `EARMARK_BACKUP_WEEKS is "${text}"; it must be a whole number of weeks from 1 to 520.`
  );
}

/**
 * Makes the folders and what pgBackRest reads, anew each time: ports and settings may be others
 * than last time.
 * @param port of the database
 */
export function writeSettings(repository: Repository, port: number, weeks: number): void {
  const { cluster, folder, settings } = repository;
  if (!/^[\w./-]+$/.test(folder))
    throw new Plain(
      `EARMARK_BACKUP is "${folder}"; it must be a path of letters, digits, "-", "_" and "." only.`
    );
  const socket = socketFolderOf(cluster);
  if (socket === '')
    throw new Plain(
      `Backups need a shorter path than ${cluster}, of letters, digits, "-", "_" and "." only. Set EARMARK_DATA to one.`
    );
  if (!existsSync(PROGRAM)) aptInstall(['pgbackrest'], 'pgBackRest, which makes backups,');
  const user = serverUser();
  for (const one of [folder, join(folder, 'repository'), join(folder, 'locks')])
    makeOwnFolder(one, user);
  checkReachable(folder, user);
  const lines = [
    '[global]',
    `repo1-path=${join(folder, 'repository')}`,
    `repo1-retention-full=${weeks}`,
    `lock-path=${join(folder, 'locks')}`,
    'start-fast=y',
    'compress-type=zst',
    'log-level-file=off',
    'log-level-console=warn',
    'log-timestamp=n',
    'process-max=2',
    `[${STANZA}]`,
    `pg1-path=${cluster}`,
    `pg1-port=${port}`,
    `pg1-socket-path=${socket}`,
    'pg1-user=earmark_owner',
    'pg1-database=postgres'
  ];
  writeFileSync(settings, `${lines.join('\n')}\n`, { mode: 0o644 });
}

/** What PostgreSQL runs for each piece of its log, to keep it with the backups. */
export const archiveCommandOf = ({ settings }: Repository): string =>
  `${PROGRAM} --config="${settings}" --stanza=${STANZA} archive-push %p`;

/**
 * Runs pgBackRest as the user the database runs as.
 * @param password of the database's owner, where it asks the running server
 * @returns what it printed
 * @throws Plain with what it said, where it did not succeed
 */
export function pgbackrest(
  { settings }: Repository,
  args: readonly string[],
  password?: string
): string {
  const all = [`--config=${settings}`, `--stanza=${STANZA}`, ...args];
  const { status, stdout, stderr, error } = spawnSync(PROGRAM, all, {
    ...serverUser(),
    cwd: '/',
    encoding: 'utf8',
    maxBuffer: 64 * 2 ** 20,
    env: { ...bareEnvironment(), ...(password ? { PGPASSWORD: password } : {}) }
  });
  if (status === 0) return stdout;
  const said = [error?.message ?? '', stderr, stdout].join('\n').split('\n');
  const why = said.filter((line) => /ERROR|Error/.test(line)).map((line) => line.trim());
  if (why.some((line) => line.includes('unable to acquire lock')))
    throw new Plain(
      'Another backup or restore is at work with these backups. Try again when it is done.'
    );
  throw new Plain(why.join('\n') || `pgBackRest ended with ${status}.`);
}

interface Info {
  backup?: {
    label: string;
    type: string;
    timestamp: { start: number; stop: number };
    info: { size: number };
  }[];
}

/** The backups there are, oldest first. */
export function backupsOf(repository: Repository): Backup[] {
  if (!existsSync(repository.settings)) return [];
  const [info] = JSON.parse(pgbackrest(repository, ['info', '--output=json'])) as Info[];
  return (info?.backup ?? []).map(({ label, type, timestamp, info: { size } }) => ({
    label,
    isFull: type === 'full',
    startedAt: timestamp.start * 1000,
    endedAt: timestamp.stop * 1000,
    bytes: size
  }));
}

/** What a second copy needs beside the database itself: the log it replays. */
const LEAST_BESIDE = 512 * 2 ** 20;

/** Refuses where a disk has no room for another copy of the database. */
export function checkRoom(folder: string, bytes: number): void {
  const { bavail, bsize } = statfsSync(folder);
  const needed = bytes + LEAST_BESIDE;
  if (bavail * bsize >= needed) return;
  const say = (some: number): string => `${(some / 2 ** 30).toFixed(1)} GiB`;
  throw new Plain(
    `The disk of ${folder} has ${say(bavail * bsize)} left, and a copy of the database takes ${say(needed)}. Make room first.`
  );
}
