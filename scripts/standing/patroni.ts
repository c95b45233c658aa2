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

/** What any machine that answers says of all; null where none does. */
export async function membersNow(): Promise<Member[] | null> {
  for (const machine of LEDGER_MACHINES) {
    const told = await askedOf(machine);
    if (told !== null) return told;
  }
  return null;
}

async function askedOf(machine: LedgerMachine): Promise<Member[] | null> {
  try {
    const answer = await fetch(`http://${addressOf(machine)}:8008/cluster`, {
      signal: AbortSignal.timeout(ASK_MS)
    });
    return ((await answer.json()) as { members: Member[] }).members;
  } catch {
    return null;
  }
}

/** The machine that is the primary by its own word and by what all agreed on; null where none is. */
export async function primaryNow(): Promise<LedgerMachine | null> {
  const leader = (await membersNow())?.find(({ role }) => role === 'leader');
  if (!leader) return null;
  const answer = await fetch(`http://${addressOf(leader.name)}:8008/primary`, {
    signal: AbortSignal.timeout(ASK_MS)
  }).catch(() => null);
  return answer?.ok ? leader.name : null;
}

/** Whether PostgreSQL runs on all three by the word of each: what all agreed on may be old. */
export async function allAnswer(): Promise<boolean> {
  const answers = await Promise.all(
    LEDGER_MACHINES.map((machine) =>
      fetch(`http://${addressOf(machine)}:8008/health`, {
        signal: AbortSignal.timeout(ASK_MS)
      }).then(
        ({ ok }) => ok,
        () => false
      )
    )
  );
  return answers.every(Boolean);
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
