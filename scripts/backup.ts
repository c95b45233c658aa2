// `npm run backup`: takes a backup of the running database, sets backups up where there were none,
// and once a week brings one back beside and proves it. `-- --full` makes a whole one, `-- --check`
// proves it today; `-- --due` does what is due by now, and nothing otherwise.
import { parseArgs } from 'node:util';
import {
  isBackupDue,
  isCheckDue,
  isFullDue,
  NO_BACKUP
} from '../src/lib/core/operating/backups.ts';
import { readBackupState } from '../src/lib/server/operating/backup-state.ts';
import { checkBeside } from './backup/check-beside.ts';
import { keepKeys } from './backup/keys.ts';
import { ownDatabase } from './backup/own-database.ts';
import {
  backupsOf,
  repositoryOf,
  weeksOf,
  writeSettings,
  type Backup,
  type Repository
} from './backup/repository.ts';
import { noteBackup } from './backup/state.ts';
import { takeBackup } from './backup/take.ts';
import { Plain } from './machine.mjs';

const { values } = parseArgs({
  options: { full: { type: 'boolean' }, check: { type: 'boolean' }, due: { type: 'boolean' } }
});

/** Says why something could not be done, and keeps it for Today. */
async function failed(
  { data }: Repository,
  kind: 'backupFault' | 'checkFault',
  error: unknown
): Promise<void> {
  console.error(error instanceof Plain ? error.message : error);
  const says = error instanceof Error ? error.message : String(error);
  await noteBackup(data, { [kind]: says });
  process.exitCode = 1;
}

/** @returns the backup that was taken; null where none could be */
async function backUp(repository: Repository, url: string | undefined): Promise<Backup | null> {
  try {
    const own = ownDatabase(repository, url);
    writeSettings(repository, own.port, weeksOf());
    const last = backupsOf(repository).findLast(({ isFull }) => isFull);
    const isFull = values.full || isFullDue(last ? new Date(last.endedAt) : null, new Date());
    const all = await takeBackup(repository, own, isFull);
    const taken = all.at(-1)!;
    keepKeys(repository);
    await noteBackup(repository.data, {
      backedUpAt: new Date(taken.endedAt).toISOString(),
      backupFault: null
    });
    console.log(
      `Backup ${taken.label} is in ${repository.folder}, beside ${all.length - 1 || 'none'} before it.`
    );
    return taken;
  } catch (error) {
    await failed(repository, 'backupFault', error);
    return null;
  }
}

async function check(repository: Repository, last: Backup, url: string): Promise<void> {
  console.log(`Bringing ${last.label} back beside, to prove it …`);
  try {
    const { events, heads, breaks } = await checkBeside(repository, last, url);
    for (const line of breaks) console.error(line);
    if (breaks.length > 0)
      throw new Plain(
        `${breaks.length} of the proofs of backup ${last.label} do not hold: ${breaks[0]!}`
      );
    await noteBackup(repository.data, { checkedAt: new Date().toISOString(), checkFault: null });
    console.log(`It holds: ${events} events reconciled and verified against ${heads} heads.`);
  } catch (error) {
    await failed(repository, 'checkFault', error);
  }
}

const repository = repositoryOf();
const url = process.env.DATABASE_URL;
const standing = (await readBackupState(repository.data)) ?? NO_BACKUP;
const isAsked = !values.due || isBackupDue(standing, new Date());
const taken = isAsked ? await backUp(repository, url) : null;
if (taken && (values.check || isCheckDue(standing, new Date())))
  await check(repository, taken, url!);
