import type { z } from 'zod';
import type { TokenRecord } from '../../core/people/account.ts';
import type { Role } from '../../core/people/rights.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import type { Db, Sql, Tx } from '../kernel/db/client.ts';
import { Problem } from '../kernel/problem.ts';
import { newSecret, secretHash } from './password.ts';
import type { NewToken } from './schemas.ts';

/** Tokens by whose they are; of one person where one is named. */
export async function readTokensOfAll(
  db: Db,
  personId: number | null = null
): Promise<(TokenRecord & { personId: number })[]> {
  return db<(TokenRecord & { personId: number })[]>`
    SELECT t.id, t.person_id AS "personId", t.name, t.roles,
      to_json(t.created_at) #>> '{}' AS created, m.name AS "madeBy",
      to_json(t.expires_at) #>> '{}' AS until, to_json(t.last_used_at) #>> '{}' AS "lastUsed",
      t.revoked_at IS NOT NULL AS revoked
    FROM api_token t
      LEFT JOIN person m ON m.id = t.made_by
    WHERE ${personId}::bigint IS NULL OR t.person_id = ${personId}
    ORDER BY t.id
  `;
}

export async function readTokens(db: Db, personId: number): Promise<TokenRecord[]> {
  return (await readTokensOfAll(db, personId)).map(({ personId: _, ...token }) => token);
}

/**
 * Makes an API token. The secret is told once, here; only its hash is kept. It may do what its
 * person may, and no more.
 * @throws Problem 404, 422 where its person does not have such a role
 */
export async function makeToken(
  sql: Sql | Tx,
  actor: Actor | null,
  login: string,
  { name, roles, days }: z.infer<typeof NewToken>
): Promise<{ secret: string; until: string }> {
  const [person] = await sql<{ id: number; name: string; roles: Role[] }[]>`
    SELECT id, name, roles FROM person WHERE upper(login) = ${numberKey(login)}
  `;
  if (!person) throw new Problem(404, 'There is no such person', []);
  const beyond = roles.filter((role) => !person.roles.includes(role));
  if (beyond.length > 0)
    throw new Problem(422, 'The token may not do more than its person', [
      {
        code: 'right.missing',
        path: 'roles',
        number: beyond.join(', '),
        message: `${person.name} is not ${beyond.join(' or ')}. Make the token for somebody who is, or give them the role first.`
      }
    ]);
  const secret = newSecret();
  const until = new Date(Date.now() + days * 24 * 3_600_000);
  await sql`
    INSERT INTO api_token (name, person_id, roles, token_hash, made_by, expires_at)
    VALUES (
      ${name}, ${person.id}, ${roles as string[]}, ${secretHash(secret)},
        ${actor?.personId ?? null}, ${until}
    )
  `;
  return { secret, until: until.toISOString() };
}

export async function revokeToken(db: Db, login: string, id: number): Promise<void> {
  await db`
    UPDATE api_token
    SET revoked_at = now()
    WHERE id = ${id}
      AND revoked_at IS NULL
      AND person_id = (SELECT id FROM person WHERE upper(login) = ${numberKey(login)})
  `;
}
