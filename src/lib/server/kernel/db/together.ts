import type postgres from 'postgres';
import type { Tx } from './client.ts';

type Fragment = postgres.PendingQuery<postgres.Row[]>;

/**
 * Several small questions asked as one statement: while others wait for a booking's locks, what
 * each statement costs on its way there and back is more than what it does. Rows come as JSON: give
 * numerics as text.
 * @param parts a query by name; its rows come back under that name
 */
export async function together<Parts extends Record<string, object>>(
  tx: Tx,
  parts: { [Name in keyof Parts]: Fragment | null }
): Promise<{ [Name in keyof Parts]: Parts[Name][] }> {
  const asked = Object.entries(parts).filter(
    (entry): entry is [string, Fragment] => entry[1] !== null
  );
  const answer = Object.fromEntries(Object.keys(parts).map((name) => [name, [] as object[]])) as {
    [Name in keyof Parts]: Parts[Name][];
  };
  if (asked.length === 0) return answer;
  const whole = asked
    .map(([name, query]) => tx`SELECT ${name}::text AS part, to_jsonb(q) AS row FROM (${query}) q`)
    .reduce((all, one) => tx`${all} UNION ALL ${one}`);
  for (const { part, row } of await tx<
    { part: keyof Parts; row: Parts[keyof Parts] }[]
  >`${whole}`.execute())
    answer[part].push(row);
  return answer;
}
