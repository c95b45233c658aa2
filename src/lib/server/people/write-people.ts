import type { z } from 'zod';
import type { Role } from '../../core/people/rights.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { NewToken, Person } from './schemas.ts';
import type { Actor } from '../kernel/actor.ts';
import { hashPassword, newSecret, secretHash, SHORTEST_PASSWORD } from './password.ts';
import { Problem } from '../kernel/problem.ts';
import { within, type Db, type Sql, type Tx } from '../kernel/db/client.ts';
import { cleanCode } from '../kernel/code.ts';

export interface TokenRecord {
  id: number;
  name: string;
  roles: Role[];
  created: string;
  madeBy: string | null;
  /** The last day it is good for; null of one that is set at each start. */
  until: string | null;
  lastUsed: string | null;
  revoked: boolean;
}

export interface PersonRecord {
  login: string;
  name: string;
  roles: Role[];
  active: boolean;
  canSignIn: boolean;
  tokens: TokenRecord[];
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
      expires_at: Date | null;
      last_used_at: Date | null;
      made_by: string | null;
    }[]
  >`
    SELECT t.id, t.person_id, t.name, t.roles, t.created_at, t.revoked_at, t.expires_at,
      t.last_used_at, m.name AS made_by
    FROM api_token t
      LEFT JOIN person m ON m.id = t.made_by
    ORDER BY t.id
  `;
  return people.map(({ id, ...person }) => ({
    ...person,
    tokens: tokens
      .filter((token) => token.person_id === id)
      .map((token) => ({
        id: token.id,
        name: token.name,
        roles: token.roles,
        created: token.created_at.toISOString(),
        madeBy: token.made_by,
        until: token.expires_at?.toISOString() ?? null,
        lastUsed: token.last_used_at?.toISOString() ?? null,
        revoked: token.revoked_at !== null
      }))
  }));
}

/**
 * Sets a person up or changes them; a password is changed only where one is given. With a password
 * that is changed, or a person who may no longer sign in, their sessions and tokens end for good.
 * @param actor who does it; null where nobody is there yet, at a start or in the demo
 * @throws Problem 422 where the password is too short, the last administrator would be lost, or
 * somebody gives a role to themselves
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
    const [before] = await tx<{ id: number; roles: Role[] }[]>`
      SELECT id, roles FROM person WHERE upper(login) = ${numberKey(login)} FOR UPDATE
    `;
    if (before) await change(tx, actor, before, given, hash);
    else
      await tx`
        INSERT INTO person ${tx({
          ...{ login, name: given.name, roles: given.roles, active: given.active },
          ...passwordOf(actor, hash)
        })}
      `;
    return { created: !before };
  });
}

/** A password with who set it and when; nothing where none is given. */
const passwordOf = (actor: Actor | null, hash: string | null) =>
  hash === null
    ? {}
    : {
        password_hash: hash,
        password_set_at: new Date(),
        password_set_by: actor?.personId ?? null
      };

async function change(
  tx: Tx,
  actor: Actor | null,
  before: { id: number; roles: Role[] },
  given: z.infer<typeof Person>,
  hash: string | null
): Promise<void> {
  if (before.id === actor?.personId) changesOwn(before.roles, given);
  await tx`
    UPDATE person
    SET ${tx({
      ...{ name: given.name, roles: given.roles, active: given.active },
      ...passwordOf(actor, hash)
    })}
    WHERE id = ${before.id}
  `;
  if (hash === null && given.active) return;
  await tx`DELETE FROM session WHERE person_id = ${before.id}`;
  await tx`
    UPDATE api_token SET revoked_at = now() WHERE person_id = ${before.id} AND revoked_at IS NULL
  `;
}

/** Somebody may not take their own administration away, nor give themselves a role. */
function changesOwn(before: readonly Role[], given: z.infer<typeof Person>): void {
  if (!given.active || !given.roles.includes('administrator'))
    throw new Problem(422, 'You cannot take your own administration away', [
      {
        code: 'right.missing',
        path: 'roles',
        message: 'Have another administrator do it, so that somebody is always left who can.'
      }
    ]);
  const more = given.roles.filter((role) => !before.includes(role));
  if (more.length > 0)
    throw new Problem(422, 'You cannot give yourself a role', [
      {
        code: 'right.missing',
        path: 'roles',
        number: more.join(', '),
        message: `Have another administrator make you ${more.join(' and ')}: two must want it.`
      }
    ]);
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

export async function revokeToken(sql: Sql, login: string, id: number): Promise<void> {
  await sql`
    UPDATE api_token
    SET revoked_at = now()
    WHERE id = ${id}
      AND revoked_at IS NULL
      AND person_id = (SELECT id FROM person WHERE upper(login) = ${numberKey(login)})
  `;
}
