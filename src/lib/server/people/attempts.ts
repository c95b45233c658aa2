import { RateLimiterPostgres } from 'rate-limiter-flexible';
import { numberKey } from '../../core/numbers/number.ts';
import type { Sql } from '../kernel/db/client.ts';
import { Problem } from '../kernel/problem.ts';
import { takeFrom, type Room } from '../kernel/take-from.ts';

const WINDOW_SECONDS = 15 * 60;
/** Wrong passwords within a quarter of an hour: for one name from one address, */
const MOST_PER_PAIR = 6;
/** for one name from wherever, */
const MOST_PER_LOGIN = 20;
/** and from one address for whatever names: behind a proxy or a gate that is a whole firm. */
const MOST_PER_ADDRESS = 200;
/** Where somebody signed in lately they are known, and others' guesses do not keep them out. */
const KNOWN_DAYS = 30;

interface Limits {
  pair: RateLimiterPostgres;
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
    pair: limiter('pair', MOST_PER_PAIR),
    login: limiter('login', MOST_PER_LOGIN),
    address: limiter('address', MOST_PER_ADDRESS)
  };
  limitsOf.set(sql, made);
  return made;
}

const loginKeyOf = (login: string): string => numberKey(login).slice(0, 100);
const addressKeyOf = (address: string): string => address.slice(0, 100);
const pairKeyOf = (login: string, address: string): string =>
  `${loginKeyOf(login)} ${addressKeyOf(address)}`;

/**
 * Takes an attempt before the password is looked at, so that a hundred sent at once are not all
 * tried. Counted are name and address together; beside that the name wherever it is tried from and
 * the address whatever it tries, but not against whoever signed in from there lately.
 * @param address where it came from; one word for whatever is asked within a session
 * @returns whether it may be tried; where not, in how many seconds
 */
export async function mayAttempt(sql: Sql, login: string, address: string): Promise<Room> {
  const { pair, login: byLogin, address: byAddress } = limits(sql);
  const own = await takeFrom(pair, pairKeyOf(login, address));
  if (!own.ok || (await isKnown(sql, login, address))) return own;
  const fromThere = await takeFrom(byAddress, addressKeyOf(address));
  return fromThere.ok ? takeFrom(byLogin, loginKeyOf(login)) : fromThere;
}

/**
 * The same, for what somebody types within a session.
 * @param path the field it was typed in
 * @param orElse what else can be done, after a comma
 * @throws Problem 429 where it may not be tried yet
 */
export async function requireAttempt(
  sql: Sql,
  login: string,
  where: string,
  path: string,
  orElse = ''
): Promise<void> {
  const may = await mayAttempt(sql, login, where);
  if (may.ok) return;
  const message = `Try again ${sayWait(may.wait)}${orElse}.`;
  throw new Problem(429, 'Too many attempts', [{ code: 'right.missing', path, message }]);
}

async function isKnown(sql: Sql, login: string, address: string): Promise<boolean> {
  const [row] = await sql`
    SELECT
    FROM sign_in_attempt
    WHERE login_key = ${loginKeyOf(login)}
      AND address = ${address}
      AND succeeded
      AND at > now() - make_interval(days => ${KNOWN_DAYS})
    LIMIT 1
  `;
  return row !== undefined;
}

/** The password was right: what was taken for it is given back. */
export async function attemptSucceeded(sql: Sql, login: string, address: string): Promise<void> {
  const { pair, login: byLogin, address: byAddress } = limits(sql);
  const known = await isKnown(sql, login, address);
  await pair.delete(pairKeyOf(login, address));
  if (!known) {
    await byLogin.reward(loginKeyOf(login));
    await byAddress.reward(addressKeyOf(address));
  }
  // What is long past is of no use; a sign-in is a good moment to clear it away.
  await sql`DELETE FROM rate_limit WHERE expire < ${Date.now() - WINDOW_SECONDS * 1000}`;
}

/** “in 40 seconds”, “in 12 minutes”: when it may be tried again. */
export const sayWait = (seconds: number): string =>
  seconds < 90 ? `in ${seconds} seconds` : `in ${Math.ceil(seconds / 60)} minutes`;
