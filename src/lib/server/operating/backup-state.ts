import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { NO_BACKUP, type BackupState } from '../../core/operating/backups.ts';

/** Where `npm run backup` notes how backups stand. */
export const backupStateFile = (data: string): string => join(data, 'backup.json');

/** How backups of a data folder stand; null where none were ever set up. */
export async function readBackupState(data: string): Promise<BackupState | null> {
  const text = await readFile(backupStateFile(data), 'utf8').catch(() => null);
  return text === null ? null : { ...NO_BACKUP, ...(JSON.parse(text) as Partial<BackupState>) };
}
