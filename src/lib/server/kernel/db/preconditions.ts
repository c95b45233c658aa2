import { numberKey, shown } from '../../../core/numbers/number.ts';
import { Problem } from '../problem.ts';
import type { Db, Sql, Tx } from './client.ts';
import { tagOf } from './entity-tag.ts';

/** What is kept under a code people give, and where. */
const KEPT = {
  product: { table: 'product', key: 'code', says: 'a product' },
  place: { table: 'place', key: 'code', says: 'a place' },
  partner: { table: 'partner', key: 'code', says: 'a partner' },
  person: { table: 'person', key: 'login', says: 'a person' },
  scheme: { table: 'numbering_scheme', key: 'code', says: 'a numbering scheme' },
  plan: { table: 'marking_plan', key: 'code', says: 'a marking plan' },
  route: { table: 'route', key: 'code', says: 'a route' }
} as const;

/** What is kept of something that has a code, as versions or as a whole. */
const KEPT_OF = {
  bill: { says: 'a bill' },
  spec: { says: 'a spec' },
  wishes: { says: 'a list of wishes' }
} as const;
const SAYS = { ...KEPT, ...KEPT_OF };

/** A PUT of something under its code: how it is read, and what keeps it. */
export interface Put<T> {
  what: keyof typeof SAYS;
  code: string;
  /** The record its entity tag is made of; null where there is none under that code. */
  read: (db: Db) => Promise<object | null>;
  keep: (db: Sql | Tx) => Promise<T>;
}

/**
 * Keeps something under a code as the request's preconditions allow (RFC 9110, 13.1). With
 * `If-None-Match: *` only if there is nothing under it yet, so that *New …* never overwrites what
 * somebody else made; with `If-Match` only if it still is what the asker saw, so that of two people
 * at one page nobody undoes what the other just changed. Those who say so wait for each other.
 * @throws Problem 412 where the code is taken, or the record is another than was seen
 */
export async function asAsked<T>(sql: Sql, request: Request, put: Put<T>): Promise<T> {
  const onlyNew = request.headers.get('if-none-match')?.trim() === '*';
  const seen = request.headers.get('if-match');
  if (!onlyNew && seen === null) return await put.keep(sql);
  return (await sql.begin(async (tx) => {
    const lock = `${put.what} ${numberKey(put.code)}`;
    await tx`SELECT pg_advisory_xact_lock(hashtextextended(${lock}, 0))`;
    if (onlyNew) await refuseTaken(tx, put);
    if (seen !== null) await refuseChanged(tx, put, seen);
    return await put.keep(tx);
  })) as T;
}

const isKeptOf = (what: keyof typeof SAYS): what is keyof typeof KEPT_OF => what in KEPT_OF;

async function refuseTaken(tx: Tx, put: Put<unknown>): Promise<void> {
  const { what, code } = put;
  // Whoever keeps a first version saw none: one that is there by now is a change of that.
  if (isKeptOf(what)) {
    if (await put.read(tx)) refuseAsChanged(put);
    return;
  }
  const { table, key, says } = KEPT[what];
  const [taken] = await tx<{ code: string; name: string }[]>`
    SELECT ${tx(key)} AS code, name
    FROM ${tx(table)}
    WHERE upper(${tx(key)}) = ${numberKey(code)}
  `;
  if (!taken) return;
  const other = key === 'login' ? 'name to sign in with' : 'code';
  throw new Problem(412, 'That is taken', [
    {
      code: 'code.taken',
      path: 'code',
      number: shown(taken.code),
      message: `There is ${says} ${shown(taken.code)} already: ${shown(taken.name)}. Give another ${other}, or open that one to change it.`
    }
  ]);
}

async function refuseChanged(tx: Tx, put: Put<unknown>, seen: string): Promise<void> {
  const now = await put.read(tx);
  const tags = seen.split(',').map((tag) => tag.trim());
  if (now && (tags.includes('*') || tags.includes(tagOf(now)))) return;
  if (now) refuseAsChanged(put);
  const { says } = SAYS[put.what];
  refuse(put, `There is no ${says.slice(2)} ${shown(put.code)} any more, or not yet.`);
}

function refuseAsChanged(put: Put<unknown>): never {
  refuse(
    put,
    `Somebody else changed this ${SAYS[put.what].says.slice(2)} since you opened it. Look at what it is now, then keep yours again.`
  );
}

function refuse({ code }: Put<unknown>, message: string): never {
  throw new Problem(412, 'It is not what you saw', [
    { code: 'record.changed', path: '', number: shown(code), message }
  ]);
}
