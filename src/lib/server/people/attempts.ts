import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { numberKey } from '../../core/numbers/number.ts';
import type { Sql } from '../kernel/db/client.ts';

const WINDOW_SECONDS = 15 * 60;
/** Wrong passwords for one name, and from one address, within a quarter of an hour. */
const MOST_PER_LOGIN = 6;
const MOST_PER_ADDRESS = 40;

interface Limits {
  login: RateLimiterPostgres;
  address: RateLimiterPostgres;
}
const limitsOf = new WeakMap<Sql, Limits>();

/** The package asks for a client of another driver; all it uses of one is this. */
const clientOf = (sql: Sql) => ({
  query: async ({ text, values }: { text: string; values: unknown[] }) => ({
    rows: await sql.unsafe(text, values as never[])
  })
});

function limits(sql: Sql): Limits {
  const before = limitsOf.get(sql);
  if (before) return before;
  const limiter = (keyPrefix: string, points: number) =>
    new RateLimiterPostgres({
      storeClient: clientOf(sql),
      storeType: 'client',
      tableName: 'rate_limit',
      tableCreated: true,
      clearExpiredByTimeout: false,
      keyPrefix,
      points,
      duration: WINDOW_SECONDS
    });
  const made = {
    login: limiter('login', MOST_PER_LOGIN),
    address: limiter('address', MOST_PER_ADDRESS)
  };
  limitsOf.set(sql, made);
  return made;
}

const loginKeyOf = (login: string): string => numberKey(login).slice(0, 100);
const addressKeyOf = (address: string): string => address.slice(0, 100);

/**
 * Takes an attempt before the password is looked at, so that a hundred sent at once are not all
 * tried.
 * @param address where it came from; null where only the name counts
 * @returns whether it may be tried
 */
export async function mayAttempt(
  sql: Sql,
  login: string,
  address: string | null
): Promise<boolean> {
  const { login: byLogin, address: byAddress } = limits(sql);
  if (address !== null && !(await taken(byAddress, addressKeyOf(address)))) return false;
  return taken(byLogin, loginKeyOf(login));
}

async function taken(limiter: RateLimiterPostgres, key: string): Promise<boolean> {
  try {
    await limiter.consume(key);
    return true;
  } catch (refusal) {
    if (refusal instanceof RateLimiterRes) return false;
    throw refusal;
  }
}

/** The password was right: the attempt is given back, and the name begins anew. */
export async function attemptSucceeded(
  sql: Sql,
  login: string,
  address: string | null
): Promise<void> {
  const { login: byLogin, address: byAddress } = limits(sql);
  await byLogin.delete(loginKeyOf(login));
  if (address !== null) await byAddress.reward(addressKeyOf(address));
  // What is long past is of no use; a sign-in is a good moment to clear it away.
  await sql`DELETE FROM rate_limit WHERE expire < ${Date.now() - WINDOW_SECONDS * 1000}`;
}
