import type { Sql } from './db/client.ts';

/** An answer about much, and of when it is. */
export interface Kept<T> {
  /** Null where it is worked out for the first time and takes longer. */
  answer: T | null;
  /** ISO instant. */
  at: string | null;
  /** It is being worked out anew. */
  underWay: boolean;
}

/** What took so long last time is worked out while somebody waits. */
const QUICK_MS = 300;
/** So long a first answer is waited for. */
const PATIENCE_MS = 1_500;
/** An answer that nothing was booked since is good for so long: catalogues change too. */
const GOOD_FOR_MS = 10 * 60_000;
/** One that something was booked since is worked out anew after so many times what it took. */
const REST = 10;

interface Row {
  body: unknown;
  made_at: Date | null;
  took_ms: number | null;
  last_event: number | null;
  newest: number | null;
  busy: boolean;
}

/**
 * An answer about the whole ledger. Where it is quick it is worked out anew each time; where it is
 * not, the last one is answered and a new one begun beside, by one of all processes.
 * @param name what it is an answer to, with whatever it was asked
 * @param work works it out; what it answers can be written as JSON
 * @param patienceMs how long a first answer is waited for
 */
export async function keptAnswer<T>(
  sql: Sql,
  name: string,
  work: () => Promise<T>,
  patienceMs = PATIENCE_MS
): Promise<Kept<T>> {
  const row = await readRow(sql, name);
  if (!row?.body) return firstAnswer(sql, name, work, patienceMs);
  if (row.took_ms! <= QUICK_MS) return worked(await workQuickly(sql, name, row.newest, work));
  const underWay = row.busy || isStale(row);
  if (underWay && !row.busy) void workBeside(sql, name, work);
  return { answer: row.body as T, at: row.made_at!.toISOString(), underWay };
}

/** Nobody knows yet how long it takes: it is waited for a while, by whoever asked first. */
async function firstAnswer<T>(
  sql: Sql,
  name: string,
  work: () => Promise<T>,
  patienceMs: number
): Promise<Kept<T>> {
  const claim = await claimWork(sql, name);
  if (claim === null) return { answer: null, at: null, underWay: true };
  const made = workOut(sql, name, claim, work);
  const answer = await Promise.race([made, after(patienceMs)]);
  if (answer !== undefined) return worked(answer);
  made.catch((error: unknown) => console.error(`${name} could not be worked out.`, error));
  return { answer: null, at: null, underWay: true };
}

/** Nothing is written as long as it is quick; once it is not, it is kept from then on. */
async function workQuickly<T>(
  sql: Sql,
  name: string,
  newest: number | null,
  work: () => Promise<T>
): Promise<T> {
  const begun = performance.now();
  const answer = await work();
  const took = performance.now() - begun;
  if (took > QUICK_MS) await keep(sql, name, { answer, took, newest });
  return answer;
}

const worked = <T>(answer: T): Kept<T> => ({
  answer,
  at: new Date().toISOString(),
  underWay: false
});

const after = (ms: number): Promise<undefined> =>
  new Promise((done) => {
    setTimeout(() => done(undefined), ms).unref();
  });

async function readRow(sql: Sql, name: string): Promise<Row | undefined> {
  const [row] = await sql<Row[]>`
    SELECT body, made_at, took_ms, last_event, (SELECT max(id) FROM event) AS newest,
      coalesce(begun_at > now() - interval '10 minutes', false) AS busy
    FROM kept_answer
    WHERE name = ${name}
  `;
  return row;
}

function isStale({ made_at, took_ms, last_event, newest }: Row): boolean {
  const age = Date.now() - made_at!.getTime();
  return age > GOOD_FOR_MS || (newest !== last_event && age > REST * took_ms!);
}

interface Claim {
  /** The last event there was when it was begun. */
  newest: number | null;
}

/** Takes the work on, unless somebody else has. */
async function claimWork(sql: Sql, name: string): Promise<Claim | null> {
  const [claim] = await sql<Claim[]>`
    INSERT INTO kept_answer AS k (name, begun_at)
    VALUES (${name}, now())
    ON CONFLICT (name) DO UPDATE SET begun_at = excluded.begun_at
    WHERE coalesce(k.begun_at < now() - interval '10 minutes', true)
    RETURNING (SELECT max(id) FROM event) AS newest
  `;
  return claim ?? null;
}

async function workBeside<T>(sql: Sql, name: string, work: () => Promise<T>): Promise<void> {
  try {
    const claim = await claimWork(sql, name);
    if (claim) await workOut(sql, name, claim, work);
  } catch (error) {
    console.error(`${name} could not be worked out.`, error);
  }
}

/** Works it out and keeps it; one that fails is nobody's work any more. */
async function workOut<T>(
  sql: Sql,
  name: string,
  { newest }: Claim,
  work: () => Promise<T>
): Promise<T> {
  const begun = performance.now();
  try {
    const answer = await work();
    await keep(sql, name, { answer, took: performance.now() - begun, newest });
    return answer;
  } catch (error) {
    await sql`UPDATE kept_answer SET begun_at = NULL WHERE name = ${name}`;
    throw error;
  }
}

interface Made {
  answer: unknown;
  /** Milliseconds. */
  took: number;
  newest: number | null;
}

const keep = (sql: Sql, name: string, { answer, took, newest }: Made) => sql`
  UPDATE kept_answer
  SET body = ${JSON.stringify(answer)}::text::jsonb, made_at = now(), begun_at = NULL,
    took_ms = ${Math.round(took)}, last_event = ${newest}
  WHERE name = ${name}
`;
