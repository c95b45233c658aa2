import { readFile, rename, writeFile } from 'node:fs/promises';
import type { SignedHead } from '../../core/seal/proof.ts';

/** Somewhere heads are sent, so that the database's owner cannot take them back. */
export interface Outlet {
  name: string;
  /** @throws where it was not taken; it is tried again */
  send: (head: SignedHead, before: SignedHead | null) => Promise<void>;
}

/** How many events the last head had that each outlet took. */
type Told = Record<string, number>;

async function readTold(file: string): Promise<Told> {
  try {
    return JSON.parse(await readFile(file, 'utf8')) as Told;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return {};
    throw error;
  }
}

/** Written beside and put in its place: what is half written was never there. */
async function keepTold(file: string, told: Told): Promise<void> {
  await writeFile(`${file}.new`, JSON.stringify(told));
  await rename(`${file}.new`, file);
}

/**
 * Sends each outlet the kept heads it does not have, oldest first. What one does not take stops
 * only what goes to that one, and is sent again the next time.
 * @param file says how far each is
 * @param heads as they were kept, oldest first
 * @returns what could not be sent, in words
 */
export async function sendHeads(
  file: string,
  heads: readonly SignedHead[],
  outlets: readonly Outlet[]
): Promise<string[]> {
  const failed: string[] = [];
  for (const outlet of outlets) {
    const told = await readTold(file);
    const last = told[outlet.name] ?? 0;
    const open = heads.filter((head) => head.size > last);
    let before = heads.findLast((head) => head.size <= last) ?? null;
    try {
      for (const head of open) {
        await outlet.send(head, before);
        before = head;
        await keepTold(file, { ...told, [outlet.name]: head.size });
      }
    } catch (error) {
      failed.push(`${outlet.name}: ${(error as Error).message}`);
    }
  }
  return failed;
}
