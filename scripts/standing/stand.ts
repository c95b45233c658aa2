// The whole of deploy/cluster on this one machine: three that keep the ledger, two that serve, and a
// front. `npm run cluster` keeps it up, `npm run cluster:test` takes it apart.
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { spawnSync } from 'node:child_process';
import { buildIfStale } from '../build.mjs';
import { aptInstall, asRoot, Plain } from '../machine.mjs';
import { dropDisks, makeDisks } from './disks.ts';
import {
  addressOf,
  cutPower,
  dropNetwork,
  makeNetwork,
  MACHINES,
  on,
  SERVING_MACHINES,
  type LedgerMachine,
  type Machine
} from './machines.ts';
import { allAnswer, allWell, membersNow, primaryNow } from './patroni.ts';
import {
  APP_PORT,
  filesOf,
  frontService,
  FRONT,
  furnish,
  ledgerServices,
  makeFolder,
  makeSecrets,
  POSTGRES_BIN,
  servingServices,
  USER,
  type Secrets
} from './programs.ts';
import type { Service } from './service.ts';
import { until } from '../until.ts';

export interface Stand {
  folder: string;
  secrets: Secrets;
  service: (machine: Machine, name: string) => Service;
  /** All processes of a machine end at once, and none is begun anew until `powerOn`. */
  powerOff: (machine: Machine) => void;
  powerOn: (machine: Machine) => void;
  /** Waits until all three that keep the ledger are well, and gives the primary. */
  well: (seconds?: number) => Promise<LedgerMachine>;
  /** pgBackRest on a machine, by its own settings; throws what it says where it fails. */
  backrest: (machine: LedgerMachine, ...args: string[]) => string;
}

const PROGRAMS: ReadonlyArray<[path: string, debian: string]> = [
  ['/sbin/ip', 'iproute2'],
  [`${POSTGRES_BIN}/postgres`, 'postgresql-15'],
  ['/usr/bin/etcd', 'etcd-server'],
  ['/usr/bin/patroni', 'patroni'],
  ['/usr/sbin/haproxy', 'haproxy'],
  ['/usr/sbin/pgbouncer', 'pgbouncer'],
  ['/usr/bin/pgbackrest', 'pgbackrest']
];

/** Debian's programs, where they are not there yet. */
function install(): void {
  if (!asRoot)
    throw new Plain('Machines are made as namespaces of the network: only root may do that.');
  const missing = PROGRAMS.filter(([path]) => !existsSync(path)).map(([, debian]) => debian);
  // Patroni asks etcd by this module, which its package only recommends.
  if (missing.includes('patroni')) missing.push('python3-etcd');
  if (missing.length > 0) aptInstall(missing, 'What a cluster is made of');
}

/**
 * What has to be there before: programs, and Earmark built, as both machines that serve would build it
 * from this folder at the same time.
 * @throws Plain where this machine cannot have a stand
 */
export function makeReady(): void {
  install();
  buildIfStale();
}

export interface StandOptions {
  /** Is told what is being waited for. */
  tell: (line: string) => void;
  /** Room each PostgreSQL has, in MB, in memory; without it the folder's own disk. */
  diskMb?: number;
  /** Exit code of a command that is ended by a signal. */
  interruptedCode: number;
}

/**
 * Brings it all up, anew; whatever is left of one before is taken down.
 * @param folder where it may write: it is emptied first
 */
export async function standUp(folder: string, { tell, diskMb }: StandOptions): Promise<Stand> {
  takeDown(folder);
  makeNetwork();
  makeFolder(folder);
  if (diskMb !== undefined) makeDisks(folder, diskMb);
  const secrets = makeSecrets();
  for (const machine of MACHINES) furnish(folder, machine, secrets);
  const services = [
    ...ledgerServices(folder),
    ...servingServices(folder, secrets),
    frontService(folder)
  ];
  const stand = standOf(folder, secrets, services);
  await bringUp(stand, services, tell);
  return stand;
}

/** Ends whatever runs of a stand, however far it had come up. */
export function takeDown(folder: string): void {
  dropNetwork();
  dropDisks(folder);
}

async function bringUp(
  stand: Stand,
  services: readonly Service[],
  tell: (line: string) => void
): Promise<void> {
  const begin = (...names: string[]): void => {
    for (const one of services) if (names.includes(one.name)) one.start();
  };
  tell('etcd on a, b and c …');
  begin('etcd');
  await until('etcd', 60, () => isThere(`http://${addressOf('a')}:2379/health`));
  tell('Patroni makes the ledger on one of them, and two copies …');
  begin('patroni');
  const primary = await until('a primary', 240, primaryNow);
  stand.backrest(primary, 'stanza-create');
  await stand.well(240);
  tell('HAProxy, PgBouncer and Earmark on d and e, Caddy in front …');
  begin('haproxy', 'pgbouncer', 'caddy');
  // One of them brings the database up to date before the other comes.
  for (const machine of SERVING_MACHINES) {
    stand.service(machine, 'earmark').start();
    const at = `http://${addressOf(machine)}:${APP_PORT}/api/health`;
    await until(`Earmark on ${machine}`, 240, () => isThere(at));
  }
  await until('a front', 30, () => isThere(`${FRONT}/api/health`));
}

const isThere = async (url: string): Promise<boolean> =>
  (await fetch(url, { signal: AbortSignal.timeout(2_000) })).ok;

function standOf(folder: string, secrets: Secrets, services: readonly Service[]): Stand {
  const ofMachine = (machine: Machine) => services.filter((one) => one.machine === machine);
  return {
    folder,
    secrets,
    service: (machine, name) => ofMachine(machine).find((one) => one.name === name)!,
    powerOff: (machine) => {
      for (const one of ofMachine(machine)) one.letDown();
      cutPower(machine);
    },
    powerOn: (machine) => {
      for (const one of ofMachine(machine)) one.start();
    },
    well: async (seconds = 120) => {
      await until('a primary with two copies', seconds, wellForAWhile());
      return until('a primary', seconds, primaryNow);
    },
    backrest: (machine, ...args) => backrest(folder, machine, args)
  };
}

/** One that comes back is well for a moment before it finds out what it lacks. */
const WELL_FOR_MS = 4_000;

/** Asked again and again: whether all have been well for a while. */
function wellForAWhile(): () => Promise<boolean> {
  let since: number | null = null;
  return async () => {
    const isWell = allWell((await membersNow()) ?? []) && (await allAnswer());
    since = isWell ? (since ?? Date.now()) : null;
    return since !== null && Date.now() - since >= WELL_FOR_MS;
  };
}

function backrest(folder: string, machine: LedgerMachine, args: readonly string[]): string {
  const config = join(filesOf(folder, machine), 'pgbackrest.conf');
  const given = ['/usr/bin/pgbackrest', `--config=${config}`, '--stanza=earmark'];
  const [program, ...words] = on(machine, USER, [...given, ...args]);
  const { stdout, stderr, status } = spawnSync(program!, words, { encoding: 'utf8' });
  if (status !== 0) throw new Error(`pgbackrest ${args.join(' ')}: ${stdout}${stderr}`);
  return stdout;
}
