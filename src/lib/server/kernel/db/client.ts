import postgres from 'postgres';

/** A connection pool, or one transaction of it; every reading and writing function takes one. */
export type Sql = postgres.Sql<{ bigint: number }>;
export type Tx = postgres.TransactionSql<{ bigint: number }>;
export type Db = Sql | Tx;

/** Runs in a transaction: a new one of the pool, or a part of the one given that fails alone. */
export async function within<T>(sql: Db, work: (tx: Tx) => Promise<T>): Promise<T> {
  return ('savepoint' in sql ? await sql.savepoint(work) : await sql.begin(work)) as T;
}

/** Type of `jsonb` parameters. */
export type Json = postgres.JSONValue;

const BIGINT = 20,
  NUMERIC = 1700,
  DATE = 1082;

interface Options {
  /** Most connections of the pool. */
  max?: number;
  /** Database role to work under; the application always gives `earmark_app`. */
  role?: string;
  /** Told every statement; for counting them in tests. */
  debug?: (connection: number, query: string) => void;
}

/**
 * What the application waits for at most, in milliseconds: no statement holds a connection for ever,
 * none stands behind another's lock for ever, and a transaction that was left open ends.
 */
const LIMITS = {
  statement_timeout: 300_000,
  lock_timeout: 30_000,
  idle_in_transaction_session_timeout: 60_000
};

/**
 * Many ask at once, and each wants little: starting helpers for one statement costs more than most
 * of them take, and takes cores from the others.
 */
const ALONE = { max_parallel_workers_per_gather: 0 };

/**
 * Opens a pool.
 * Ids come as numbers (they stay below 2^53), numerics as exact decimal strings, dates as
 * `YYYY-MM-DD` strings.
 */
export function connect(url: string, { max = 10, role, debug }: Options = {}): Sql {
  return postgres(url, {
    max,
    connection: {
      application_name: 'earmark',
      TimeZone: 'UTC',
      ...(role ? { role, ...LIMITS, ...ALONE } : {})
    },
    types: {
      bigint: {
        to: BIGINT,
        from: [BIGINT],
        serialize: (n: number | bigint | string) => String(n),
        parse: Number
      },
      numeric: { to: NUMERIC, from: [NUMERIC], serialize: String, parse: (text: string) => text },
      date: { to: DATE, from: [DATE], serialize: String, parse: (text: string) => text }
    },
    onnotice: () => {},
    ...(debug ? { debug } : {})
  }) as unknown as Sql;
}

let pool: Sql | undefined;
/** When it was opened, in milliseconds of this process. */
let openedAt = 0;

/**
 * Lets scripts/start.mjs, which knows only the built handler, close the pool when it stops or when
 * it broke.
 */
Object.assign(globalThis, { earmarkClose: () => closeDb(), earmarkRenew: () => renewDb() });

/**
 * The application's own pool, opened at first use from EARMARK_APP_URL (set by `npm start`) or
 * DATABASE_URL.
 */
export function db(): Sql {
  if (!pool) {
    const url = process.env.EARMARK_APP_URL ?? process.env.DATABASE_URL;
    if (!url)
      throw new Error(
        'Neither EARMARK_APP_URL nor DATABASE_URL is set; start Earmark with `npm start`.'
      );
    pool = connect(url, { max: Number(process.env.EARMARK_POOL ?? 12), role: 'earmark_app' });
    openedAt = performance.now();
  }
  return pool;
}

/** So long a pool is kept at least. */
const YOUNG_MS = 2_000;
let later: NodeJS.Timeout | undefined;

/**
 * Throws a broken pool away: what still waits on it is refused, the next question opens a new one.
 * Where a server dies each of its connections says so, some of them late: a pool that was opened a
 * moment ago is thrown away once, when it is no longer young, and not for each of them.
 */
export function renewDb(): void {
  const young = openedAt + YOUNG_MS - performance.now();
  if (young > 0) {
    later ??= setTimeout(() => {
      later = undefined;
      renewDb();
    }, young).unref();
    return;
  }
  const broken = pool;
  pool = undefined;
  void broken?.end({ timeout: 0 }).catch(() => {});
}

/** Closes the application's pool, letting running statements end. */
export async function closeDb(): Promise<void> {
  await pool?.end({ timeout: 5 });
  pool = undefined;
}
