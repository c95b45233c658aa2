import { error } from '@sveltejs/kit';
import { countGuess, mayLook } from './guessing.ts';

/**
 * What somebody without a sign-in looks up by a number: it is there, or it is told that it is not,
 * and after many such numbers nothing more is told for a while.
 */
export async function lookedUp<T>(address: string, look: () => Promise<T | null>): Promise<T> {
  if (!(await mayLook(address)))
    error(
      429,
      'Too many numbers that name nothing came from here. Try again in a quarter of an hour.'
    );
  const found = await look();
  if (found !== null) return found;
  await countGuess(address);
  error(404, 'Nothing is known by this number. Check it, letter by letter.');
}
