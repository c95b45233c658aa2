import { writeFileSync } from 'node:fs';
import type { BackupState } from '../../src/lib/core/operating/backups.ts';
import { backupStateFile, readBackupState } from '../../src/lib/server/operating/backup-state.ts';

/** Notes how backups stand, for Today and for the next one. */
export async function noteBackup(data: string, change: Partial<BackupState>): Promise<void> {
  const state = { ...(await readBackupState(data)), ...change };
  writeFileSync(backupStateFile(data), `${JSON.stringify(state)}\n`, { mode: 0o644 });
}
