import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Plain } from '../machine.mjs';
import type { Repository } from './repository.ts';

/** The port of a cluster's server that runs; null where none does. */
export function runningPort(cluster: string): number | null {
  const file = join(cluster, 'postmaster.pid');
  if (!existsSync(file)) return null;
  const lines = readFileSync(file, 'utf8').split('\n');
  return isAlive(Number(lines[0])) ? Number(lines[3]) : null;
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/**
 * The database of the data folder, which must be running.
 * @throws Plain where none runs, or where another is used by DATABASE_URL
 */
export function ownDatabase(
  { data, cluster }: Repository,
  url: string | undefined
): { url: string; port: number; password: string } {
  if (!url) throw new Plain(`No database is running in ${data}. Start Earmark with \`npm start\`.`);
  const port = runningPort(cluster);
  const { hostname, port: named, password } = new URL(url);
  if (port === null || hostname !== '127.0.0.1' || Number(named) !== port)
    throw new Plain(
      'The database in use is not the one Earmark runs by itself (DATABASE_URL names another): back it up where it runs, as docs/operating.md says.'
    );
  return { url, port, password };
}
