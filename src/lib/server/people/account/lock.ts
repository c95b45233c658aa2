import type { Role } from '../../../core/people/rights.ts';
import { quickRoles } from '../../../core/people/session-wait.ts';
import type { Db, Sql } from '../../kernel/db/client.ts';
import { Problem } from '../../kernel/problem.ts';
import { attemptSucceeded, requireAttempt } from '../attempts.ts';
import { logSecurity } from '../security-log.ts';
import { newSecret, passwordMatches, secretHash } from '../password.ts';
import { confirmPassword } from './confirm-password.ts';
import type { Self } from './self.ts';

/** Locks the device somebody leaves. */
export async function lockSession(db: Db, sessionId: number): Promise<void> {
  await db`
    UPDATE session SET locked_at = clock_timestamp() WHERE id = ${sessionId} AND locked_at IS NULL
  `;
}

/** How somebody comes back: their password, or a badge and its PIN. */
export type ComingBack = { password: string } | { badge: string; pin: string };

/** Who came back, and the session under its new secret. */
export interface CameBack {
  login: string;
  name: string;
  secret: string;
  expires: Date;
}

interface Comer {
  id: number;
  login: string;
  name: string;
}

/**
 * Somebody comes back to a device that is locked. Its person, with the password, may do again all
 * they might. Badge and PIN may be the same person's or the next one's of the shift: the session is
 * theirs from then on, for what the floor and the dock do, and ends when it would have.
 * @throws Problem 409 where it is not locked, 422 where it is not right, 429 after too many
 */
export async function unlock(
  sql: Sql,
  self: Self,
  given: ComingBack,
  address: string
): Promise<CameBack> {
  if (self.wait !== 'unlocking') throw notLocked();
  if ('password' in given) {
    await confirmPassword(sql, self, given.password);
    return comeBack(sql, self, { id: self.personId, login: self.login, name: self.name }, false);
  }
  const comer = await byBadge(sql, given, address);
  await logSecurity(sql, {
    ...{ kind: 'signed in', actor: { personId: comer.id, login: comer.login } },
    ...{ address, about: 'badge and PIN' }
  });
  return comeBack(sql, self, comer, true);
}

async function byBadge(
  sql: Sql,
  { badge, pin }: { badge: string; pin: string },
  address: string
): Promise<Comer> {
  const key = secretHash(badge.trim());
  const counted = key.toString('hex').slice(0, 40);
  await requireAttempt(sql, counted, 'badge', 'pin');
  const [person] = await sql<(Comer & { pin_hash: string; roles: Role[] })[]>`
    SELECT p.id, p.login, p.name, p.roles, b.pin_hash
    FROM badge b
      JOIN person p ON p.id = b.person_id
    WHERE b.badge_hash = ${key} AND p.active
  `;
  if (!(await passwordMatches(person?.pin_hash ?? null, pin)) || !person) {
    const login = person?.login ?? '';
    await logSecurity(sql, { kind: 'sign-in refused', login, address, about: 'badge and PIN' });
    throw new Problem(422, 'Badge and PIN do not match', [
      { code: 'right.missing', path: 'pin', message: 'Scan the badge again and type its PIN.' }
    ]);
  }
  await attemptSucceeded(sql, counted, 'badge');
  if (quickRoles(person.roles).length === 0)
    throw new Problem(422, 'Badge and PIN are not enough', [
      {
        code: 'right.missing',
        path: 'badge',
        message: `What ${person.name} does takes the password: sign in with it.`
      }
    ]);
  return person;
}

/** The session goes on under another secret: whoever saw the old one has nothing. */
async function comeBack(
  db: Db,
  { sessionId }: Self,
  { id, login, name }: Comer,
  quick: boolean
): Promise<CameBack> {
  const secret = newSecret();
  const [row] = await db<[{ expires: Date }]>`
    UPDATE session
    SET token_hash = ${secretHash(secret)}, person_id = ${id}, quick = ${quick}, locked_at = NULL,
      factor_at = CASE WHEN ${quick} THEN clock_timestamp() ELSE factor_at END,
      last_seen_at = clock_timestamp()
    WHERE id = ${sessionId}
    RETURNING expires_at AS expires
  `;
  return { login, name, secret, expires: row.expires };
}

const notLocked = (): Problem =>
  new Problem(409, 'This device is not locked', [
    { code: 'request.malformed', path: '', message: 'There is nothing to come back to: go on.' }
  ]);
