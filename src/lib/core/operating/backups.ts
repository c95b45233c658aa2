/** How backups stand; instants in ISO 8601. */
export interface BackupState {
  /** When the last backup was taken. */
  backedUpAt: string | null;
  /** Why the last try failed; null where it did not. */
  backupFault: string | null;
  /** When one was last brought back beside and proved. */
  checkedAt: string | null;
  /** What did not hold then; null where all did. */
  checkFault: string | null;
}

export const NO_BACKUP: BackupState = {
  backedUpAt: null,
  backupFault: null,
  checkedAt: null,
  checkFault: null
};

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** Backups are taken at night, between these hours of the machine's own clock. */
const NIGHT = { from: 1, until: 5 };

const agoOf = (at: string | null, now: Date): number =>
  at === null ? Infinity : now.getTime() - Date.parse(at);

/**
 * Whether a backup is to be taken now: once a night, or whenever it is more than a day and two
 * hours old, as after a night the machine was off.
 * @param now with the hour of the machine's own zone
 */
export function isBackupDue({ backedUpAt }: BackupState, now: Date): boolean {
  const ago = agoOf(backedUpAt, now);
  const isNight = now.getHours() >= NIGHT.from && now.getHours() < NIGHT.until;
  return ago > 26 * HOUR || (isNight && ago > 12 * HOUR);
}

/** Whether a backup is to be brought back beside and proved: once a week, or after one that failed. */
export function isCheckDue({ checkedAt, checkFault }: BackupState, now: Date): boolean {
  return checkFault !== null || agoOf(checkedAt, now) > 7 * DAY - 12 * HOUR;
}

/** Whether a whole backup is to be made, and not only what changed since the last whole one. */
export const isFullDue = (lastFull: Date | null, now: Date): boolean =>
  lastFull === null || now.getTime() - lastFull.getTime() > 7 * DAY - 12 * HOUR;
