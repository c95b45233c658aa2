import type { Sql } from '../../kernel/db/client.ts';
import { Problem } from '../../kernel/problem.ts';
import { hashPassword } from '../password.ts';
import { requireGoodPassword } from '../password-rules.ts';
import { confirmPassword } from './confirm-password.ts';
import type { Self } from './self.ts';

/** Who came by an identity provider may give themselves a password so soon after it. */
const FRESH_MINUTES = 10;

async function hasPassword(sql: Sql, { personId }: Self): Promise<boolean> {
  const [person] = await sql`
    SELECT FROM person WHERE id = ${personId} AND password_hash IS NOT NULL
  `;
  return person !== undefined;
}

/** Nobody at a screen that was left open gives its person a password. @throws Problem 422 */
async function justCameIn(sql: Sql, { sessionId }: Self): Promise<void> {
  const [session] = await sql`
    SELECT
    FROM session
    WHERE id = ${sessionId}
      AND elsewhere
      AND created_at > clock_timestamp() - make_interval(mins => ${FRESH_MINUTES})
  `;
  if (session) return;
  throw new Problem(422, 'Sign in once more', [
    {
      code: 'right.missing',
      path: 'old',
      message: `You have no password here yet. Sign out, sign in again, and set one within ${FRESH_MINUTES} minutes.`
    }
  ]);
}

/**
 * A person changes their password, or gives themselves a first one to sign with. Their other sessions and all their tokens end: whoever had the
 * old one is out.
 * @throws Problem 422 where the old one is wrong or the new one may not be taken
 */
export async function changePassword(
  sql: Sql,
  actor: Self,
  { old, password }: { old: string; password: string }
): Promise<void> {
  if (await hasPassword(sql, actor)) await confirmPassword(sql, actor, old, 'old');
  else await justCameIn(sql, actor);
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
