// How the cluster stands, as Patroni tells it (https://patroni.readthedocs.io, REST API of 3.0).
import { addressOf, LEDGER_MACHINES, type LedgerMachine } from './machines.ts';

export interface Member {
  name: LedgerMachine;
  role: 'leader' | 'sync_standby' | 'replica';
  state: string;
  timeline?: number;
  lag?: number | 'unknown';
}

const ASK_MS = 1_500;

/** Asks Patroni on a machine; null where it does not answer, or says no. */
async function asked(machine: LedgerMachine, path: string): Promise<Response | null> {
  const answer = await fetch(`http://${addressOf(machine)}:8008/${path}`, {
    signal: AbortSignal.timeout(ASK_MS)
  }).catch(() => null);
  return answer?.ok ? answer : null;
}

/** What any machine that answers says of all; null where none does. */
export async function membersNow(): Promise<Member[] | null> {
  for (const machine of LEDGER_MACHINES) {
    const told = await (await asked(machine, 'cluster'))?.json().catch(() => null);
    if (told) return (told as { members: Member[] }).members;
  }
  return null;
}

/** The machine that is the primary by its own word and by what all agreed on; null where none is. */
export async function primaryNow(): Promise<LedgerMachine | null> {
  const leader = (await membersNow())?.find(({ role }) => role === 'leader');
  return leader && (await asked(leader.name, 'primary')) ? leader.name : null;
}

/** Whether PostgreSQL runs on all three by the word of each: what all agreed on may be old. */
export async function allAnswer(): Promise<boolean> {
  const answers = await Promise.all(LEDGER_MACHINES.map((machine) => asked(machine, 'health')));
  return answers.every((answer) => answer !== null);
}

const FOLLOWS = ['running', 'streaming'];

/** Whether all three are well: a primary, one that has all it has, and one more that follows. */
export function allWell(members: readonly Member[]): boolean {
  const [first, ...rest] = [...members].sort((one, other) => one.role.localeCompare(other.role));
  if (members.length !== LEDGER_MACHINES.length || first?.role !== 'leader') return false;
  if (first.state !== 'running' || !rest.some(({ role }) => role === 'sync_standby')) return false;
  return rest.every(
    ({ state, timeline, lag }) =>
      FOLLOWS.includes(state) && timeline === first.timeline && lag !== 'unknown'
  );
}
