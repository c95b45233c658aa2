// Machines of the stand: network namespaces on one bridge, so that each has an address of its own and
// can be cut off as by pulling its cable.
import { spawnSync } from 'node:child_process';
import { Plain } from '../machine.mjs';

/** a, b and c keep the ledger, d and e serve, and people come in by the front. */
export const LEDGER_MACHINES = ['a', 'b', 'c'] as const;
export const SERVING_MACHINES = ['d', 'e'] as const;
export const MACHINES = [...LEDGER_MACHINES, ...SERVING_MACHINES, 'front'] as const;
export type Machine = (typeof MACHINES)[number];
export type LedgerMachine = (typeof LEDGER_MACHINES)[number];

export const NETWORK = '10.87.0.0/24';
const ADDRESSES: Record<Machine, string> = {
  a: '10.87.0.1',
  b: '10.87.0.2',
  c: '10.87.0.3',
  d: '10.87.0.11',
  e: '10.87.0.12',
  front: '10.87.0.20'
};
export const addressOf = (machine: Machine): string => ADDRESSES[machine];

const BRIDGE = 'earmark-br';
/** Ours on that network: who looks at the machines, and asks as people do. */
const HERE = '10.87.0.254/24';
const spaceOf = (machine: Machine): string => `earmark-${machine}`;
/** The end of a machine's cable at the bridge; names of links are short. */
const cableOf = (machine: Machine): string => `earmark-${machine}-c`.slice(0, 15);

function ip(...args: string[]): void {
  const done = spawnSync('ip', args, { encoding: 'utf8' });
  if (done.status !== 0) throw new Plain(`ip ${args.join(' ')}: ${done.stderr.trim()}`);
}

/** Ends what runs on the machines of this or an earlier stand, and takes their network down. */
export function dropNetwork(): void {
  for (const machine of MACHINES) cutPower(machine);
  for (const machine of MACHINES) spawnSync('ip', ['netns', 'del', spaceOf(machine)]);
  for (const machine of MACHINES) spawnSync('ip', ['link', 'del', cableOf(machine)]);
  spawnSync('ip', ['link', 'del', BRIDGE]);
}

/** Makes the network with all its machines. */
export function makeNetwork(): void {
  ip('link', 'add', BRIDGE, 'type', 'bridge');
  ip('addr', 'add', HERE, 'dev', BRIDGE);
  ip('link', 'set', BRIDGE, 'up');
  for (const machine of MACHINES) connect(machine);
}

function connect(machine: Machine): void {
  const space = spaceOf(machine);
  ip('netns', 'add', space);
  ip('link', 'add', cableOf(machine), 'type', 'veth', 'peer', 'name', 'eth0', 'netns', space);
  ip('link', 'set', cableOf(machine), 'master', BRIDGE, 'up');
  ip('-n', space, 'link', 'set', 'lo', 'up');
  ip('-n', space, 'addr', 'add', `${addressOf(machine)}/24`, 'dev', 'eth0');
  ip('-n', space, 'link', 'set', 'eth0', 'up');
}

/** Pulls a machine's cable, or plugs it in again. */
export const pullCable = (machine: Machine): void => ip('link', 'set', cableOf(machine), 'down');
export const plugCable = (machine: Machine): void => ip('link', 'set', cableOf(machine), 'up');

/** A command as it is run on a machine, as a user of this system. */
export const on = (machine: Machine, user: string, command: readonly string[]): string[] => [
  ...['ip', 'netns', 'exec', spaceOf(machine)],
  ...['setpriv', `--reuid=${user}`, `--regid=${user}`, '--init-groups', '--'],
  ...command
];

/** Ends all that runs on a machine at once, as by a loss of power. */
export function cutPower(machine: Machine): void {
  const { stdout } = spawnSync('ip', ['netns', 'pids', spaceOf(machine)], { encoding: 'utf8' });
  for (const pid of stdout.split('\n').filter((line) => line !== '')) endProcess(Number(pid));
}

/** `kill -9`; one that is gone already is no error. */
export function endProcess(pid: number): void {
  try {
    process.kill(pid, 'SIGKILL');
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ESRCH') throw error;
  }
}
