import { RateLimiterMemory } from 'rate-limiter-flexible';
import { takeFrom } from '../kernel/take-from.ts';

/** Numbers from one address that named nothing, within a quarter of an hour. */
const MOST_GUESSES = 30;
const guesses = new RateLimiterMemory({ points: MOST_GUESSES, duration: 15 * 60 });

/**
 * Whether an address may still look things up. Only what names nothing counts, so a workshop that
 * opens hundreds of its own pages is not kept out; kept in this process, as a lookup is not to cost
 * a write.
 */
export async function mayLook(address: string): Promise<boolean> {
  const before = await guesses.get(address);
  return before === null || before.remainingPoints > 0;
}

/** Counts a number that named nothing. */
export async function countGuess(address: string): Promise<void> {
  await takeFrom(guesses, address);
}
