import { runningPort } from '../cluster.mjs';
import { Plain } from '../machine.mjs';
import type { Repository } from './repository.ts';

/**
 * The database of the data folder, which must be running.
 * @throws Plain where none runs, or where another is used by DATABASE_URL
 */
export function ownDatabase(
  { data }: Repository,
  url: string | undefined
): { url: string; port: number; password: string } {
  if (!url) throw new Plain(`No database is running in ${data}. Start Earmark with \`npm start\`.`);
  const port = runningPort(data);
  const { hostname, port: named, password } = new URL(url);
  if (port === null || hostname !== '127.0.0.1' || Number(named) !== port)
    throw new Plain(
      'The database in use is not the one Earmark runs by itself (DATABASE_URL names another): back it up where it runs, as docs/operating.md says.'
    );
  return { url, port, password };
}
