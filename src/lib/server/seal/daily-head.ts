import { appendFile, readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { SignedHead } from '../../core/seal/proof.ts';

/**
 * The file of heads lies beside the key, out of the database's reach; from there it is taken to where
 * it cannot be changed.
 */
export const headsFileOf = (keyFile: string): string => join(dirname(keyFile), 'seal-heads.jsonl');

const dayOf = (at: string): string => at.slice(0, 10);

/** The heads a file has, oldest first; none where there is no file yet. */
export async function readKeptHeads(file: string): Promise<SignedHead[]> {
  const text = await readFile(file, 'utf8').catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return '';
    throw error;
  });
  return text
    .split('\n')
    .filter(Boolean)
    .map((line) => JSON.parse(line) as SignedHead);
}

/**
 * Adds the first head of a day to a file, a line each. Whoever has the file elsewhere holds the
 * ledger to it: a past that is rewritten later, even signed anew, does not come to these heads.
 */
export async function keepDailyHead(file: string, head: SignedHead): Promise<void> {
  const last = (await readKeptHeads(file)).at(-1);
  if (last && dayOf(last.at) === dayOf(head.at)) return;
  await appendFile(file, `${JSON.stringify(head)}\n`);
}
