import type { z } from 'zod';
import type { Role } from '../../core/people/rights.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Person } from './schemas.ts';
import type { Actor } from '../kernel/actor.ts';
import { hashPassword, newSecret, secretHash, SHORTEST_PASSWORD } from './password.ts';
import { Problem } from '../kernel/problem.ts';
import { within, type Db, type Sql, type Tx } from '../kernel/db/client.ts';
import { cleanCode } from '../kernel/code.ts';

export interface PersonRecord {
  login: string;
  name: string;
  roles: Role[];
  active: boolean;
  canSignIn: boolean;
  tokens: { id: number; name: string; roles: Role[]; created: string; revoked: boolean }[];
}

export async function readPeople(db: Db): Promise<PersonRecord[]> {
  const people = await db<(Omit<PersonRecord, 'tokens'> & { id: number })[]>`
    SELECT id, login, name, roles, active, password_hash IS NOT NULL AS "canSignIn"
    FROM person
    ORDER BY name
  `;
  const tokens = await db<
    {
      id: number;
      person_id: number;
      name: string;
      roles: Role[];
      created_at: Date;
      revoked_at: Date | null;
    }[]
  >`SELECT id, person_id, name, roles, created_at, revoked_at FROM api_token ORDER BY id`;
  return people.map(({ id, ...person }) => ({
    ...person,
    tokens: tokens
      .filter((token) => token.person_id === id)
      .map((token) => ({
        id: token.id,
        name: token.name,
        roles: token.roles,
        created: token.created_at.toISOString(),
        revoked: token.revoked_at !== null
      }))
  }));
}

/**
 * Sets a person up or changes them; a password is changed only where one is given, and then their
 * sessions end.
 * @throws Problem 422 where the password is too short, or the last administrator would be lost
 */
export async function putPerson(
  sql: Sql | Tx,
  actor: Actor | null,
  pathLogin: string,
  given: z.infer<typeof Person>
): Promise<{ created: boolean }> {
  const login = cleanCode(pathLogin, 'sign-in');
  if (given.password !== undefined && given.password.length < SHORTEST_PASSWORD) {
    throw new Problem(422, 'The password is too short', [
      {
        code: 'number.malformed',
        path: 'password',
        message: `A password has at least ${SHORTEST_PASSWORD} characters. A few plain words make a good one.`
      }
    ]);
  }
  const hash = given.password === undefined ? null : await hashPassword(given.password);
  return await within(sql, async (tx) => {
    const [before] = await tx<
      { id: number }[]
    >`SELECT id FROM person WHERE upper(login) = ${numberKey(login)} FOR UPDATE`;
    if (before) {
      const loses =
        actor &&
        before.id === actor.personId &&
        (!given.active || !given.roles.includes('administrator'));
      if (loses)
        throw new Problem(422, 'You cannot take your own administration away', [
          {
            code: 'right.missing',
            path: 'roles',
            message: 'Have another administrator do it, so that somebody is always left who can.'
          }
        ]);
      await tx`
        UPDATE person
        SET name = ${given.name}, roles = ${given.roles}, active = ${given.active},
          password_hash = coalesce(${hash}, password_hash)
        WHERE id = ${before.id}
      `;
      if (hash !== null || !given.active)
        await tx`DELETE FROM session WHERE person_id = ${before.id}`;
    } else {
      await tx`
        INSERT INTO person (login, name, roles, active, password_hash)
        VALUES (${login}, ${given.name}, ${given.roles}, ${given.active}, ${hash})
      `;
    }
    return { created: !before };
  });
}

/** Makes an API token. The secret is told once, here; only its hash is kept. @throws Problem 404 */
export async function makeToken(
  sql: Sql | Tx,
  login: string,
  name: string,
  roles: readonly Role[]
): Promise<{ secret: string }> {
  const secret = newSecret();
  const [row] = await sql`
    INSERT INTO api_token (name, person_id, roles, token_hash)
    SELECT ${name}, id, ${roles as string[]}, ${secretHash(secret)}
    FROM person
    WHERE upper(login) = ${numberKey(login)}
    RETURNING id
  `;
  if (!row) throw new Problem(404, 'There is no such person', []);
  return { secret };
}

export async function revokeToken(sql: Sql, login: string, id: number): Promise<void> {
  await sql`
    UPDATE api_token
    SET revoked_at = now()
    WHERE id = ${id}
      AND revoked_at IS NULL
      AND person_id = (SELECT id FROM person WHERE upper(login) = ${numberKey(login)})
  `;
}
