import { makeOwnFolder, serverUser } from '../machine.mjs';
import { pgbackrest, type Repository } from './repository.ts';

/** An instant as PostgreSQL reads it, whatever the zone of either machine. */
const targetOf = (at: Date): string => at.toISOString().replace('T', ' ').replace('Z', '+00');

/**
 * Brings the database back into an empty folder: as it stood at an instant, or with all that was
 * kept of it. It is ready once a server was started on it, which replays the log.
 * @param into the folder of the cluster to be
 * @param at the instant; null for all there is
 */
export function bringBack(repository: Repository, into: string, at: Date | null): void {
  makeOwnFolder(into, serverUser());
  const until = at
    ? ['--type=time', `--target=${targetOf(at)}`, '--target-action=promote']
    : ['--type=default'];
  pgbackrest(repository, [`--pg1-path=${into}`, ...until, 'restore']);
}
