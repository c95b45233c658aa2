import type { Role } from '../../core/people/rights.ts';
import { quickRoles, waitOf, type SessionFacts } from '../../core/people/session-wait.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Sql } from '../kernel/db/client.ts';
import type { Actor } from '../kernel/actor.ts';
import { attemptSucceeded, mayAttempt } from './attempts.ts';
import { hashInTurn, TooManyHashes } from './hash-in-turn.ts';
import { logSecurity } from './security-log.ts';
import { openSession } from './open-session.ts';
import { passwordMatches, secretHash } from './password.ts';

export type SignedIn =
  | { ok: true; secret: string; expires: Date; actor: Actor }
  | { ok: false; why: 'wrong' }
  | { ok: false; why: 'too-many'; wait: number };

/** When it may be tried again where many are signing in from the same address. */
const BUSY_SECONDS = 5;

interface PersonRow {
  id: number;
  login: string;
  name: string;
  roles: Role[];
  password_hash: string | null;
  active: boolean;
}

/**
 * Signs a person in and opens a session. Failed attempts are counted for a quarter of an hour
 * (attempts.ts).
 * @param address where the request came from, for the limit
 * @param agent what its browser says it is, for its person to tell it from others
 */
export async function signIn(
  sql: Sql,
  login: string,
  password: string,
  address: string,
  agent = ''
): Promise<SignedIn> {
  const loginKey = numberKey(login).slice(0, 100);
  const may = await mayAttempt(sql, login, address);
  if (!may.ok) {
    await logSecurity(sql, { kind: 'sign-in refused', login, address, about: 'too many attempts' });
    return { ok: false, why: 'too-many', wait: may.wait };
  }
  const [person] = await sql<(PersonRow & { may_use_password: boolean })[]>`
    SELECT p.id, p.login, p.name, p.roles, p.password_hash, p.active,
      coalesce(a.only_local = p.id, true) AS may_use_password
    FROM person p
      CROSS JOIN access_setting a
    WHERE upper(p.login) = ${loginKey}
  `;
  // Where only one may sign in with a password, nobody else's is right.
  const stored = person?.active && person.may_use_password ? person.password_hash : null;
  const matches = await hashInTurn(address, () =>
    passwordMatches(stored, password.slice(0, 1000))
  ).catch((error: unknown) => {
    if (error instanceof TooManyHashes) return null;
    throw error;
  });
  if (matches === null) return { ok: false, why: 'too-many', wait: BUSY_SECONDS };
  if (person && matches) await attemptSucceeded(sql, login, address);
  await sql`
    INSERT INTO sign_in_attempt (login_key, address, succeeded)
    VALUES (${loginKey}, ${address}, ${matches})
  `;
  if (!person || !matches) {
    await logSecurity(sql, { kind: 'sign-in refused', login, address });
    return { ok: false, why: 'wrong' };
  }
  const known = { personId: person.id, login: person.login };
  await logSecurity(sql, { kind: 'signed in', actor: known, login, address });
  const { secret, expires } = await openSession(sql, { person: person.id, address, agent });
  const actor = await actorOfSession(sql, secret);
  return actor ? { ok: true, secret, expires, actor } : { ok: false, why: 'wrong' };
}

interface SessionRow extends Pick<PersonRow, 'id' | 'login' | 'name'>, Omit<SessionFacts, 'roles'> {
  roles: Role[];
  session: number;
  quick: boolean;
  stale: boolean;
  lockMinutes: number;
}

/**
 * Who a session cookie belongs to, and what the session waits for; null where it is unknown, expired,
 * or its person may no longer sign in. One that nothing came from for long is locked.
 */
export async function actorOfSession(sql: Sql, secret: string): Promise<Actor | null> {
  const [row] = await sql<SessionRow[]>`
    SELECT p.id, p.login, p.name, p.roles, s.id AS session, s.quick,
      has_factor(p.id) AS "hasFactor", s.factor_at IS NOT NULL AS "factorShown",
      coalesce(p.password_set_by <> p.id, false) AND NOT s.quick AND NOT s.elsewhere AS "othersPassword",
      s.locked_at IS NOT NULL
        OR s.last_seen_at < now() - make_interval(mins => a.lock_minutes) AS locked,
      a.factor_roles AS "factorRoles", a.lock_minutes AS "lockMinutes",
      s.last_seen_at < now() - interval '15 seconds' AS stale
    FROM session s
      JOIN person p ON p.id = s.person_id
      CROSS JOIN access_setting a
    WHERE s.token_hash = ${secretHash(secret)} AND s.expires_at > now() AND p.active
  `;
  if (!row) return null;
  const roles = row.quick ? quickRoles(row.roles) : row.roles;
  const wait = waitOf({ ...row, roles });
  // So is known where somebody is and that they are there, without a write for each request.
  if (row.stale && !row.locked)
    await sql`UPDATE session SET last_seen_at = clock_timestamp() WHERE id = ${row.session}`;
  const { id: personId, login, name, session: sessionId, quick, lockMinutes } = row;
  return { personId, login, name, roles, via: 'session', sessionId, wait, quick, lockMinutes };
}

/**
 * Who a bearer token books as: with those of its own roles that its person still has. Null where it
 * is unknown, revoked or past its day, or its person has none of its roles left.
 */
export async function actorOfToken(sql: Sql, secret: string): Promise<Actor | null> {
  const [row] = await sql<(PersonRow & { token: number; stale: boolean })[]>`
    SELECT p.id, p.login, p.name, t.id AS token,
      ARRAY(SELECT unnest(t.roles) INTERSECT SELECT unnest(p.roles)) AS roles,
      coalesce(t.last_used_at < now() - interval '1 minute', true) AS stale
    FROM api_token t
      JOIN person p ON p.id = t.person_id
    WHERE t.token_hash = ${secretHash(secret)}
      AND t.revoked_at IS NULL
      AND (t.expires_at IS NULL OR t.expires_at > now())
      AND p.active
  `;
  if (!row || row.roles.length === 0) return null;
  // To the minute is enough to see what is used, and costs no write for each request.
  if (row.stale) await sql`UPDATE api_token SET last_used_at = now() WHERE id = ${row.token}`;
  const { id: personId, login, name, roles, token: tokenId } = row;
  return { personId, login, name, roles, via: 'token', tokenId };
}

export async function signOut(sql: Sql, secret: string): Promise<void> {
  await sql`DELETE FROM session WHERE token_hash = ${secretHash(secret)}`;
}
