// What is done to a cluster at work, and how it is mended afterwards.
import { spawnSync } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { endProcess, pullCable, plugCable, type LedgerMachine } from './machines.ts';
import { membersNow } from './patroni.ts';
import { dataOf, diskOf, filesOf } from './programs.ts';
import type { Stand } from './stand.ts';
import { until } from '../until.ts';

type Mend = (() => void) | void;

export interface Failure {
  name: string;
  /** Breaks it. @returns mends it again; nothing for what mends itself */
  breaks: (stand: Stand, primary: LedgerMachine) => Mend | Promise<Mend>;
  /** For how long it stays broken, in milliseconds, where it does not show at once. */
  lastsMs?: number;
}

/** So long bookings write until a full disk is felt: room is kept ahead for what is written. */
const FULL_DISK_MS = 40_000;

/** The first process of a machine's PostgreSQL. */
const postmasterOf = (stand: Stand, machine: LedgerMachine): number =>
  Number(
    readFileSync(join(dataOf(stand.folder, machine), 'postmaster.pid'), 'utf8').split('\n')[0]
  );

/** The standby that has all that was acknowledged. */
async function standbyNow(): Promise<LedgerMachine> {
  const { name } = await until('a standby that has it all', 30, async () =>
    (await membersNow())?.find(({ role }) => role === 'sync_standby')
  );
  return name;
}

/** Takes all room there is on the disk of a machine's PostgreSQL. @returns gives it back */
function fillDisk(stand: Stand, machine: LedgerMachine): () => void {
  const file = join(diskOf(stand.folder, machine), 'filled');
  spawnSync('dd', ['if=/dev/zero', `of=${file}`, 'bs=1M']);
  return () => rmSync(file, { force: true });
}

/** So long an operator takes to see it. */
const NOTICED_MS = 5_000;

/** As an operator does it (docs/operating.md). */
function switchOver(stand: Stand, primary: LedgerMachine, candidate: LedgerMachine): void {
  const config = join(filesOf(stand.folder, primary), 'patroni.yml');
  const who = ['--leader', primary, '--candidate', candidate, '--force'];
  const done = spawnSync('patronictl', ['-c', config, 'switchover', ...who], { encoding: 'utf8' });
  if (done.status !== 0) console.error(`patronictl switchover: ${done.stdout}${done.stderr}`);
}

/** `kill -9` of a program that is begun anew by itself. */
const killOf =
  (machine: 'd' | 'primary', program: string): Failure['breaks'] =>
  (stand, primary) =>
    stand.service(machine === 'primary' ? primary : machine, program).kill();

export const PRIMARY_KILLED: Failure = {
  name: 'PostgreSQL of the primary: kill -9',
  breaks: (stand, primary) => endProcess(postmasterOf(stand, primary))
};

export const FAILURES: readonly Failure[] = [
  PRIMARY_KILLED,
  {
    name: 'the machine of the primary: power off',
    breaks: (stand, primary) => {
      stand.powerOff(primary);
      return () => stand.powerOn(primary);
    }
  },
  {
    name: 'the primary cut off from the network',
    breaks: (_, primary) => {
      pullCable(primary);
      return () => plugCable(primary);
    }
  },
  {
    name: 'a standby cut off from the network',
    breaks: async () => {
      const machine = await standbyNow();
      pullCable(machine);
      return () => plugCable(machine);
    }
  },
  {
    name: 'a standby whose disk is full',
    lastsMs: FULL_DISK_MS,
    breaks: async (stand) => fillDisk(stand, await standbyNow())
  },
  {
    name: 'the primary whose disk is full, switched over',
    lastsMs: FULL_DISK_MS,
    breaks: async (stand, primary) => {
      const candidate = await standbyNow();
      const mend = fillDisk(stand, primary);
      setTimeout(() => switchOver(stand, primary, candidate), NOTICED_MS);
      return mend;
    }
  },
  { name: 'etcd beside the primary: kill -9', breaks: killOf('primary', 'etcd') },
  { name: 'Patroni of the primary: kill -9', breaks: killOf('primary', 'patroni') },
  { name: 'HAProxy of one that serves: kill -9', breaks: killOf('d', 'haproxy') },
  { name: 'PgBouncer of one that serves: kill -9', breaks: killOf('d', 'pgbouncer') },
  { name: 'Earmark on one that serves: kill -9', breaks: killOf('d', 'earmark') },
  {
    name: 'a machine that serves: power off',
    breaks: (stand) => {
      stand.powerOff('d');
      return () => stand.powerOn('d');
    }
  }
];
