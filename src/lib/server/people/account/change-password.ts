import type { Sql } from '../../kernel/db/client.ts';
import { Problem } from '../../kernel/problem.ts';
import { hashPassword } from '../password.ts';
import { requireGoodPassword } from '../password-rules.ts';
import { confirmPassword } from './confirm-password.ts';
import type { Self } from './self.ts';

/**
 * A person changes their password. Their other sessions and all their tokens end: whoever had the
 * old one is out.
 * @throws Problem 422 where the old one is wrong or the new one may not be taken
 */
export async function changePassword(
  sql: Sql,
  actor: Self,
  { old, password }: { old: string; password: string }
): Promise<void> {
  await confirmPassword(sql, actor, old, 'old');
  if (old === password)
    throw new Problem(422, 'That is the password you have', [
      { code: 'number.malformed', path: 'password', message: 'Take another one.' }
    ]);
  await requireGoodPassword(password, actor);
  const hash = await hashPassword(password);
  await sql.begin(async (tx) => {
    await tx`
      UPDATE person
      SET password_hash = ${hash}, password_set_at = clock_timestamp(), password_set_by = id
      WHERE id = ${actor.personId}
    `;
    await tx`DELETE FROM session WHERE person_id = ${actor.personId} AND id <> ${actor.sessionId}`;
    await tx`
      UPDATE api_token
      SET revoked_at = now()
      WHERE person_id = ${actor.personId} AND revoked_at IS NULL
    `;
  });
}
