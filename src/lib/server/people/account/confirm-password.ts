import type { Actor } from '../../kernel/actor.ts';
import type { Sql } from '../../kernel/db/client.ts';
import { Problem } from '../../kernel/problem.ts';
import { attemptSucceeded, requireAttempt } from '../attempts.ts';
import { passwordMatches } from '../password.ts';

/**
 * What guards an account is changed by its person only, who types the password once more.
 * @param path the field it was typed in
 * @throws Problem 422 where it is not their password, 429 after too many
 */
export async function confirmPassword(
  sql: Sql,
  actor: Pick<Actor, 'personId' | 'login'>,
  password: string,
  path = 'password'
): Promise<void> {
  await requireAttempt(sql, actor.login, 'account', path);
  const [person] = await sql<{ password_hash: string | null }[]>`
    SELECT password_hash FROM person WHERE id = ${actor.personId}
  `;
  if (!(await passwordMatches(person?.password_hash ?? null, password)))
    throw new Problem(422, 'That is not your password', [
      { code: 'right.missing', path, message: 'Type the password you sign in with now.' }
    ]);
  await attemptSucceeded(sql, actor.login, 'account');
}
