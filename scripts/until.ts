import { setTimeout as pause } from 'node:timers/promises';

const EACH_MS = 200;

/**
 * Waits until something is so.
 * @param what said where it never is: “a primary”
 * @param seconds most it may take
 * @returns what was found
 * @throws Error where it is not so in time
 */
export async function until<T>(
  what: string,
  seconds: number,
  find: () => Promise<T | null | undefined | false> | T | null | undefined | false
): Promise<T> {
  const end = Date.now() + seconds * 1000;
  for (;;) {
    const found = await Promise.resolve(find()).catch(() => null);
    if (found !== null && found !== undefined && found !== false) return found;
    if (Date.now() > end) throw new Error(`Waited in vain for ${seconds} seconds: ${what}.`);
    await pause(EACH_MS);
  }
}
