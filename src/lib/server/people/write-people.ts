import type { z } from 'zod';
import type { TokenRecord } from '../../core/people/account.ts';
import type { Role } from '../../core/people/rights.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Person } from './schemas.ts';
import type { Actor } from '../kernel/actor.ts';
import { hashPassword } from './password.ts';
import { requireGoodPassword } from './password-rules.ts';
import { readTokensOfAll } from './tokens.ts';
import { Problem } from '../kernel/problem.ts';
import { within, type Db, type Sql, type Tx } from '../kernel/db/client.ts';
import { cleanCode } from '../kernel/code.ts';

export interface PersonRecord {
  login: string;
  name: string;
  roles: Role[];
  active: boolean;
  canSignIn: boolean;
  /** Whether they have a second factor. */
  factor: boolean;
  tokens: TokenRecord[];
}

/** Everybody by name, or whoever signs in as that. */
export async function readPeople(db: Db, login: string | null = null): Promise<PersonRecord[]> {
  const people = await db<(Omit<PersonRecord, 'tokens'> & { id: number })[]>`
    SELECT id, login, name, roles, active, password_hash IS NOT NULL AS "canSignIn",
      has_factor(id) AS factor
    FROM person
    WHERE ${login}::text IS NULL OR upper(login) = ${numberKey(login ?? '')}
    ORDER BY name
  `;
  const tokens = await readTokensOfAll(db);
  return people.map(({ id, ...person }) => ({
    ...person,
    tokens: tokens.flatMap(({ personId, ...token }) => (personId === id ? [token] : []))
  }));
}

/** What of a person is changed together: how and with what they sign in is not. */
export const changeablePerson = ({ login, name, roles, active }: Changeable): object => ({
  ...{ login, name, roles, active }
});
type Changeable = Pick<PersonRecord, 'login' | 'name' | 'roles' | 'active'>;

/** The same of whoever signs in as that; null where nobody does. */
export async function readChangeablePerson(db: Db, login: string): Promise<object | null> {
  const [person] = await db<Changeable[]>`
    SELECT login, name, roles, active FROM person WHERE upper(login) = ${numberKey(login)}
  `;
  return person ? changeablePerson(person) : null;
}

/**
 * Sets a person up or changes them; a password is changed only where one is given. With a password
 * that is changed, or a person who may no longer sign in, their sessions and tokens end for good.
 * @param actor who does it; null where nobody is there yet, at a start or in the demo
 * @throws Problem 422 where the password may not be taken, the last administrator would be lost, or
 * somebody gives a role to themselves
 */
export async function putPerson(
  sql: Sql | Tx,
  actor: Actor | null,
  pathLogin: string,
  given: z.infer<typeof Person>
): Promise<{ created: boolean }> {
  const login = cleanCode(pathLogin, 'sign-in');
  if (given.password !== undefined)
    await requireGoodPassword(given.password, { login, name: given.name });
  const hash = given.password === undefined ? null : await hashPassword(given.password);
  return await within(sql, async (tx) => {
    // Who could do what on a day is kept with who said so (migration 0040).
    await tx`SELECT set_config('earmark.by', ${String(actor?.personId ?? '')}, true)`;
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
