import type { BackupState } from './backups.ts';

/** How the parts stand that run by themselves; null where there is no such part. */
export interface Standing {
  /** Of the disk the data folder is on, in bytes. */
  disk: { free: number; whole: number } | null;
  /** How far the database's clock is before ours, in milliseconds; behind ours below zero. */
  clockAheadMs: number;
  /** How far the latest booking is in the future by the database's clock, in milliseconds. */
  bookedAheadMs: number;
  /** How long the oldest event waits to be sealed, in milliseconds. */
  sealWaitsMs: number | null;
  /** The index traces are answered from. */
  index: { state: 'starting' | 'ready' | 'off'; reason: string | null } | null;
  /** Messages to customers that were given up after their last try. */
  mailsGivenUp: number;
  /** Of the database Earmark runs by itself; null where somebody else's is used. */
  backups: BackupStanding | null;
}

export interface BackupStanding {
  /** Null where none were ever set up. */
  state: BackupState | null;
  /** How long ago the first event was booked, in milliseconds; null where nothing is. */
  ledgerAgeMs: number | null;
  /** How long ago the last backup was taken, and one was proved, in milliseconds. */
  backedUpMsAgo: number | null;
  checkedMsAgo: number | null;
}

/** What goes wrong, and what mends it, in the words of who looks after the machine. */
export interface Trouble {
  code: 'disk' | 'clock' | 'clock back' | 'seal' | 'index' | 'mail' | 'backup';
  says: string;
  mend: string;
}

const GIB = 2 ** 30;
/** PostgreSQL stops where the disk is full: so much is told while there is still time. */
const LEAST_FREE = 2 * GIB;
const LEAST_SHARE = 0.05;
/** By more than this what two machines date the other way round can matter. */
const MOST_CLOCK_MS = 5_000;
/** A booking may be dated five minutes ahead; more than a moment beyond now is a clock that went back. */
const MOST_AHEAD_MS = 60_000;
/** It is sealed every ten seconds. */
const MOST_UNSEALED_MS = 10 * 60_000;
const DAY_MS = 86_400_000;
/** What was booked in a week is more than anybody enters again. */
const MOST_WITHOUT_BACKUP_MS = 7 * DAY_MS;
/** One is taken each night: two were missed. */
const MOST_BACKUP_AGE_MS = 2 * DAY_MS;
/** One is proved each week: it was missed for two days. */
const MOST_UNPROVED_MS = 9 * DAY_MS;

/** Everything that needs somebody, the worst first. */
export function troublesOf(standing: Standing): Trouble[] {
  const checks = [disk, clock, clockBack, seal, backup, index, mail];
  return checks.flatMap((check) => check(standing) ?? []);
}

const sayGib = (bytes: number): string => `${(bytes / GIB).toFixed(1)} GiB`;
const saySeconds = (ms: number): string => `${Math.round(Math.abs(ms) / 1000)} seconds`;

function disk({ disk }: Standing): Trouble | null {
  if (disk === null || (disk.free >= LEAST_FREE && disk.free >= disk.whole * LEAST_SHARE))
    return null;
  return {
    code: 'disk',
    says: `The disk of the data folder has ${sayGib(disk.free)} of ${sayGib(disk.whole)} left. When it is full, nothing can be booked.`,
    mend: 'Make room, or move the data folder to a larger disk.'
  };
}

function clock({ clockAheadMs }: Standing): Trouble | null {
  if (Math.abs(clockAheadMs) <= MOST_CLOCK_MS) return null;
  const way = clockAheadMs > 0 ? 'before' : 'behind';
  return {
    code: 'clock',
    says: `The database’s clock is ${saySeconds(clockAheadMs)} ${way} the application’s: bookings are dated by both.`,
    mend: 'Set both machines by the same time server.'
  };
}

function clockBack({ bookedAheadMs }: Standing): Trouble | null {
  if (bookedAheadMs <= MOST_AHEAD_MS) return null;
  return {
    code: 'clock back',
    says: `The latest booking was ${saySeconds(bookedAheadMs)} later than it is now: the database’s clock was set back.`,
    mend: 'Set it right. What is booked until then stands before what was booked already.'
  };
}

function seal({ sealWaitsMs }: Standing): Trouble | null {
  if (sealWaitsMs === null || sealWaitsMs <= MOST_UNSEALED_MS) return null;
  return {
    code: 'seal',
    says: `What was booked waits to be sealed since ${Math.round(sealWaitsMs / 60_000)} minutes.`,
    mend: 'The log says why: most often the key of EARMARK_SEAL_KEY cannot be read.'
  };
}

function index({ index }: Standing): Trouble | null {
  if (index?.state !== 'off' || index.reason === null) return null;
  return {
    code: 'index',
    says: `Traces are read from the database, which takes longer: ${index.reason}`,
    mend: 'Give it more memory by EARMARK_INDEX_MB, or start Earmark again.'
  };
}

function mail({ mailsGivenUp }: Standing): Trouble | null {
  if (mailsGivenUp === 0) return null;
  return {
    code: 'mail',
    says: `${mailsGivenUp} ${mailsGivenUp === 1 ? 'message' : 'messages'} to customers could not be sent within the last week.`,
    mend: 'See the history of their service jobs, and the address or the mail server.'
  };
}

const sayDays = (ms: number): string => `${Math.floor(ms / DAY_MS)} days`;

const TRY_AGAIN = 'Run `npm run backup`: it says what is in its way.';

/** What is wrong with backups: none that holds comes before one that is old. */
function backup({ backups }: Standing): Trouble | null {
  if (backups === null) return null;
  const { state, ledgerAgeMs, backedUpMsAgo, checkedMsAgo } = backups;
  const told = (says: string, mend: string): Trouble => ({ code: 'backup', says, mend });
  const isNever = backedUpMsAgo === null && !state?.backupFault;
  if (state === null || isNever) {
    if ((ledgerAgeMs ?? 0) <= MOST_WITHOUT_BACKUP_MS) return null;
    return told(
      `No backup was ever taken, and the ledger is ${sayDays(ledgerAgeMs!)} old.`,
      'Run `npm run backup` once, with EARMARK_BACKUP naming a folder on another disk; from then on one is taken every night.'
    );
  }
  if (state.checkFault !== null)
    return told(
      `The last backup could not be proved: ${state.checkFault}`,
      'Run `npm run backup -- --full --check`. Until it holds, do not count on it.'
    );
  if (state.backupFault !== null)
    return told(`The last try of a backup failed: ${state.backupFault}`, TRY_AGAIN);
  if (backedUpMsAgo !== null && backedUpMsAgo > MOST_BACKUP_AGE_MS)
    return told(`The last backup is ${sayDays(backedUpMsAgo)} old.`, TRY_AGAIN);
  if ((checkedMsAgo ?? Infinity) > MOST_UNPROVED_MS)
    return told(
      'No backup was brought back and proved for more than a week.',
      'Run `npm run backup -- --check`.'
    );
  return null;
}
