import { RateLimiterRes, type RateLimiterAbstract } from 'rate-limiter-flexible';

/** Whether there was room; where not, in how many seconds there is. */
export type Room = { ok: true } | { ok: false; wait: number };

/** Takes one from a limit. */
export async function takeFrom(limiter: RateLimiterAbstract, key: string): Promise<Room> {
  try {
    await limiter.consume(key);
    return { ok: true };
  } catch (refusal) {
    if (!(refusal instanceof RateLimiterRes)) throw refusal;
    return { ok: false, wait: Math.max(1, Math.ceil(refusal.msBeforeNext / 1000)) };
  }
}
