import { numberKey, shown } from '../../../core/numbers/number.ts';
import { Problem } from '../problem.ts';
import type { Sql } from './client.ts';

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

/**
 * Keeps something under a code; where the request says `If-None-Match: *` (RFC 9110, 13.1.2), only
 * if there is nothing under it yet, so that *New …* never overwrites what somebody else made. Two
 * that make the same at once wait for each other.
 * @throws Problem 412 where the code is taken
 */
export async function onlyNew<T>(
  sql: Sql,
  request: Request,
  what: keyof typeof KEPT,
  code: string,
  keep: () => Promise<T>
): Promise<T> {
  if (request.headers.get('if-none-match')?.trim() !== '*') return await keep();
  const { table, key, says } = KEPT[what];
  return (await sql.begin(async (tx) => {
    await tx`SELECT pg_advisory_xact_lock(hashtextextended(${`${what} ${numberKey(code)}`}, 0))`;
    const [taken] = await tx<{ code: string; name: string }[]>`
      SELECT ${tx(key)} AS code, name
      FROM ${tx(table)}
      WHERE upper(${tx(key)}) = ${numberKey(code)}
    `;
    if (!taken) return await keep();
    throw new Problem(412, 'That is taken', [
      {
        code: 'code.taken',
        path: 'code',
        number: shown(taken.code),
        message: `There is ${says} ${shown(taken.code)} already: ${shown(taken.name)}. Give another ${key === 'login' ? 'name to sign in with' : 'code'}, or open that one to change it.`
      }
    ]);
  })) as T;
}
