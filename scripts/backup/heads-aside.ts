import { existsSync, renameSync, writeFileSync } from 'node:fs';
import type { SignedHead } from '../../src/lib/core/seal/proof.ts';
import { headsFileOf, readKeptHeads } from '../../src/lib/server/seal/daily-head.ts';
import { onDatabase } from '../on-database.ts';
import { sealKeyFileOf } from '../seal-key.ts';

/**
 * Heads that were kept out of the database's reach, of more events than it has been brought back
 * with, go into a file of their own: it will go on from here by another way.
 * @param url of the database that was brought back
 * @param stamp names that file
 * @returns the heads it must come to
 */
export async function setLaterHeadsAside(
  data: string,
  url: string,
  stamp: string
): Promise<SignedHead[]> {
  const file = headsFileOf(sealKeyFileOf(data));
  if (!existsSync(file)) return [];
  const heads = await readKeptHeads(file);
  const sealed = await countSealed(url);
  const within = heads.filter(({ size }) => size <= sealed);
  if (within.length === heads.length) return heads;
  const aside = file.replace(/\.jsonl$/, `.before-${stamp}.jsonl`);
  renameSync(file, aside);
  writeFileSync(file, within.map((head) => `${JSON.stringify(head)}\n`).join(''));
  console.log(
    `${heads.length - within.length} heads of later events are kept in ${aside}; a witness elsewhere must begin anew.`
  );
  return within;
}

const countSealed = (url: string): Promise<number> =>
  onDatabase(url, async (sql) => {
    const [row] = await sql<[{ count: number }]>`SELECT count(*)::int AS count FROM seal_leaf`;
    return row.count;
  });
