import { chmodSync, copyFileSync, mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { readHeads } from '../../src/lib/server/seal/read-seal.ts';
import type { SignedHead } from '../../src/lib/core/seal/proof.ts';
import { clusterOf, secretFileOf, startCluster } from '../cluster.mjs';
import { anyFreePort } from '../machine.mjs';
import { migrateOwn } from '../migrate-own.ts';
import { onDatabase } from '../on-database.ts';
import { bringBack } from './bring-back.ts';
import { prove, type Proved } from './prove.ts';
import { checkRoom, type Backup, type Repository } from './repository.ts';

/** Replaying the log of a week may take this long. */
const PATIENCE_S = 4 * 3600;

/**
 * Brings the last backup back in a folder beside, proves it, and takes it away again. The database
 * at work is only asked for the heads it has sealed, which the copy must come to.
 * @param url of the database at work
 */
export async function checkBeside(
  repository: Repository,
  last: Backup,
  url: string
): Promise<Proved> {
  checkRoom(repository.data, last.bytes);
  const folder = mkdtempSync(join(repository.data, 'check-'));
  try {
    chmodSync(folder, 0o755); // the user postgres must get through
    const heads = await headsUntil(url, new Date(last.endedAt));
    copyFileSync(secretFileOf(repository.data), secretFileOf(folder));
    bringBack(repository, clusterOf(folder), null);
    return await proveIn(folder, repository.data, heads);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

async function proveIn(
  folder: string,
  data: string,
  heads: readonly SignedHead[]
): Promise<Proved> {
  const beside = await startCluster({
    folder,
    port: await anyFreePort(),
    archive: false,
    patience: PATIENCE_S
  });
  try {
    // From before an upgrade it may be, and its proofs are of today.
    await onDatabase(beside.ownerUrl, migrateOwn);
    return await prove(beside.ownerUrl, data, heads);
  } finally {
    beside.stop();
  }
}

/** What was sealed before a backup ended, and must be in it. */
const headsUntil = (url: string, until: Date): Promise<SignedHead[]> =>
  onDatabase(url, async (sql) => (await readHeads(sql)).filter(({ at }) => new Date(at) <= until));
