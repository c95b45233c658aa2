import { RateLimiterMemory } from 'rate-limiter-flexible';
import { takeFrom } from '../../kernel/take-from.ts';

/** Sign-ins that one address may begin within a quarter of an hour: behind a gate that is a firm. */
const MOST_BEGUN = 200;
const begun = new RateLimiterMemory({ points: MOST_BEGUN, duration: 15 * 60 });

/** Whether an address may begin another: each is kept until it is answered, and anybody can begin. */
export const mayBegin = async (address: string): Promise<boolean> =>
  (await takeFrom(begun, address)).ok;
