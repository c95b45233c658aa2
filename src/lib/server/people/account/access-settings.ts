import type { z } from 'zod';
import type { Role } from '../../../core/people/rights.ts';
import { numberKey, shown } from '../../../core/numbers/number.ts';
import type { Db } from '../../kernel/db/client.ts';
import { Problem } from '../../kernel/problem.ts';
import type { AccessSettings } from '../schemas.ts';

type Settings = Required<z.infer<typeof AccessSettings>>;

export async function readAccessSettings(db: Db): Promise<Settings> {
  const [row] = await db<[{ factorRoles: Role[]; lockMinutes: number; onlyLocal: string | null }]>`
    SELECT a.factor_roles AS "factorRoles", a.lock_minutes AS "lockMinutes",
      p.login AS "onlyLocal"
    FROM access_setting a
      LEFT JOIN person p ON p.id = a.only_local
  `;
  return row;
}

/**
 * @throws Problem 422 where the only one who may sign in with a password could not look after
 * Earmark with it
 */
export async function putAccessSettings(
  db: Db,
  { factorRoles, lockMinutes, onlyLocal }: z.infer<typeof AccessSettings>
): Promise<void> {
  const only = onlyLocal == null ? null : await administrator(db, onlyLocal);
  await db`
    UPDATE access_setting
    SET factor_roles = ${factorRoles as string[]}, lock_minutes = ${lockMinutes},
      only_local = ${onlyLocal === undefined ? db`only_local` : only}
  `;
}

/** The id of an administrator who has a password. */
async function administrator(db: Db, login: string): Promise<number> {
  const [person] = await db<{ id: number }[]>`
    SELECT id
    FROM person
    WHERE upper(login) = ${numberKey(login)}
      AND active
      AND password_hash IS NOT NULL
      AND 'administrator' = ANY(roles)
  `;
  if (person) return person.id;
  throw new Problem(422, 'Nobody could come in any more', [
    {
      code: 'request.malformed',
      path: 'onlyLocal',
      number: shown(login),
      message: `${shown(login)} is no administrator with a password here. Name one who is: should the other sign-in fail, they are the only way in.`
    }
  ]);
}
