import type { Sql } from '../kernel/db/client.ts';
import { Problem } from '../kernel/problem.ts';
import { attemptSucceeded, requireAttempt } from './attempts.ts';
import { passwordMatches } from './password.ts';
import { personByLogin, type PersonFound } from './person-by-login.ts';

interface Asking {
  /** What the password is asked for: tries are counted for each apart. */
  where: 'approval' | 'signature';
  /** What it comes to where they do not match. */
  title: string;
  /** What else can be done where they tried too often. */
  orElse?: string;
}

/**
 * Somebody shows within a session who they are, by name and password.
 * @throws Problem 422 where the two do not match, 429 after too many wrong ones
 */
export async function personByPassword(
  sql: Sql,
  { login, password }: { login: string; password: string },
  { where, title, orElse }: Asking
): Promise<PersonFound> {
  await requireAttempt(sql, login, where, 'password', orElse);
  const person = await personByLogin(sql, login);
  const matches = await passwordMatches(person?.password ?? null, password);
  if (!person || !matches)
    throw new Problem(422, title, [
      {
        code: 'right.missing',
        path: 'password',
        message: 'Name and password do not match. Check both and try again.'
      }
    ]);
  await attemptSucceeded(sql, login, where);
  return person;
}
