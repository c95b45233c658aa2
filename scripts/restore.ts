// `npm run restore -- --at "2026-11-20 14:00"`: brings the database back as it stood then, or with
// all that was kept of it, and proves it. Earmark must be stopped. What was there is set aside and
// nothing is deleted.
import { existsSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { bringBack } from './backup/bring-back.ts';
import { setLaterHeadsAside } from './backup/heads-aside.ts';
import { instantAsked } from './backup/instant-asked.ts';
import { putBackKeys } from './backup/keys.ts';
import { prove, type Proved } from './backup/prove.ts';
import {
  backupsOf,
  checkRoom,
  repositoryOf,
  weeksOf,
  writeSettings,
  type Repository
} from './backup/repository.ts';
import { runningPort, startCluster } from './cluster.mjs';
import { anyFreePort, makeDataFolder, Plain } from './machine.mjs';
import { migrateOwn } from './migrate-own.ts';
import { onDatabase } from './on-database.ts';

/** Replaying a log of weeks takes as long as it takes. */
const PATIENCE_S = 7 * 86_400;

/** Moves the cluster that is there out of the way. @returns where to; null where there was none */
function setAside({ cluster }: Repository, stamp: string): string | null {
  if (!existsSync(cluster)) return null;
  const aside = `${cluster}.before-${stamp}`;
  renameSync(cluster, aside);
  return aside;
}

/** Brings it back, and lets it replay; what was there stands again where that fails. */
async function replay(repository: Repository, at: Date | null, aside: string | null) {
  try {
    bringBack(repository, repository.cluster, at);
    return await startCluster({
      folder: repository.data,
      port: await anyFreePort(), // nobody is to find it before it is proved
      patience: PATIENCE_S
    });
  } catch (error) {
    rmSync(repository.cluster, { recursive: true, force: true });
    if (aside) renameSync(aside, repository.cluster);
    const says = (error as Error).message;
    if (!says.includes('before configured recovery target was reached')) throw error;
    throw new Plain(
      'Nothing was kept until the instant asked for: the last of it is earlier. Leave --at out to bring back all there is.'
    );
  }
}

/** @throws Plain where Earmark runs, or where there is nothing to bring back */
function checkReady(repository: Repository): void {
  if (runningPort(repository.data) !== null)
    throw new Plain(`Earmark is running in ${repository.data}. Stop it, then restore.`);
  if (!existsSync(repository.settings))
    throw new Plain(
      `There are no backups in ${repository.folder}. Name their folder by EARMARK_BACKUP.`
    );
}

async function restore(repository: Repository, asked: string | undefined): Promise<Proved> {
  makeDataFolder(repository.data);
  checkReady(repository);
  writeSettings(repository, await anyFreePort(), weeksOf());
  const backups = backupsOf(repository);
  const at = instantAsked(asked, backups, new Date());
  checkRoom(repository.data, backups.at(-1)!.bytes);
  const keys = putBackKeys(repository);
  if (keys.length > 0) console.log(`Put back from beside the backups: ${keys.join(', ')}.`);
  const stamp = new Date().toISOString().slice(0, 19).replace(/\D/g, '');
  const aside = setAside(repository, stamp);
  console.log(at ? `Bringing back what was there at ${at.toISOString()} …` : 'Bringing back all …');
  const cluster = await replay(repository, at, aside);
  try {
    if (aside) console.log(`What was there before is in ${aside}; delete it when all is well.`);
    // The index knows bookings that are no more.
    rmSync(join(repository.data, 'index'), { recursive: true, force: true });
    // From before an upgrade it may be, and its proofs are of today.
    await onDatabase(cluster.ownerUrl, migrateOwn);
    const heads = await setLaterHeadsAside(repository.data, cluster.ownerUrl, stamp);
    return await prove(cluster.ownerUrl, repository.data, heads);
  } finally {
    cluster.stop();
  }
}

function tell({ events, last, heads, breaks }: Proved): void {
  const until = last ? `; the last, ${last.id}, was booked at ${last.at.toISOString()}` : '';
  console.log(`Brought back: ${events} events${until}.`);
  for (const line of breaks) console.error(line);
  if (breaks.length === 0)
    console.log(`All of it holds, against ${heads} heads. Start Earmark with \`npm start\`.`);
  else console.error(`${breaks.length} of its proofs do not hold: see docs/operating.md.`);
  process.exitCode = breaks.length === 0 ? 0 : 1;
}

try {
  const { values } = parseArgs({ options: { at: { type: 'string' } } });
  tell(await restore(repositoryOf(), values.at));
} catch (error) {
  console.error(error instanceof Plain ? error.message : error);
  process.exitCode = 1;
}
