import type { Sql } from '../../src/lib/server/kernel/db/client.ts';
import { Plain } from '../machine.mjs';
import { onDatabase } from '../on-database.ts';
import {
  archiveCommandOf,
  backupsOf,
  pgbackrest,
  type Backup,
  type Repository
} from './repository.ts';

/**
 * What is booked reaches the backups after so long at most, however little is booked. With a whole
 * machine lost, this much is lost with it.
 */
const ARCHIVE_AFTER = '5min';

/** Has PostgreSQL keep its log with the backups, from now on. */
async function keepLog(sql: Sql, repository: Repository): Promise<void> {
  const [{ mode }] = await sql<[{ mode: string }]>`
    SELECT setting AS mode FROM pg_settings WHERE name = 'archive_mode'
  `;
  if (mode !== 'on')
    throw new Plain('The database was started before it could keep its log. Start Earmark again.');
  const command = archiveCommandOf(repository).replaceAll("'", "''");
  await sql.unsafe(`ALTER SYSTEM SET archive_command = '${command}'`);
  await sql.unsafe(`ALTER SYSTEM SET archive_timeout = '${ARCHIVE_AFTER}'`);
  await sql`SELECT pg_reload_conf()`;
}

/** Makes the place of backups, or sees that it is this database's. */
function makeStanza(repository: Repository, password: string): void {
  try {
    pgbackrest(repository, ['stanza-create'], password);
  } catch (error) {
    if (!/do not match the database/.test((error as Error).message)) throw error;
    throw new Plain(
      `The backups in ${repository.folder} are of another database. Restore that one (\`npm run restore\`), or name another folder by EARMARK_BACKUP.`
    );
  }
}

/**
 * Takes a backup while others work.
 * @param isFull a whole one, and not only what changed since the last whole one
 * @returns all there are by then, oldest first
 */
export async function takeBackup(
  repository: Repository,
  { url, password }: { url: string; password: string },
  isFull: boolean
): Promise<Backup[]> {
  makeStanza(repository, password);
  await onDatabase(url, (sql) => keepLog(sql, repository));
  pgbackrest(repository, [`--type=${isFull ? 'full' : 'diff'}`, 'backup'], password);
  return backupsOf(repository);
}
