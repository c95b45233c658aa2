import type { Account, PasskeyRecord, SessionRecord } from '../../../core/people/account.ts';
import type { Role } from '../../../core/people/rights.ts';
import type { Db } from '../../kernel/db/client.ts';
import { readTokens } from '../tokens.ts';
import { factorsOf } from './second-factor.ts';
import type { Self } from './self.ts';

/** All a person sees of their own account. */
export async function readAccount(db: Db, actor: Self): Promise<Account> {
  const { personId, sessionId, login, name } = actor;
  const [[person], factors, passkeys, sessions, tokens] = await Promise.all([
    db<{ since: string | null; hasPassword: boolean; roles: Role[]; badge: boolean }[]>`
      SELECT password_hash IS NOT NULL AS "hasPassword", to_json(password_set_at) #>> '{}' AS since, roles,
        EXISTS (SELECT FROM badge WHERE person_id = person.id) AS badge
      FROM person
      WHERE id = ${personId}
    `,
    factorsOf(db, personId),
    db<PasskeyRecord[]>`
      SELECT id, name, to_json(created_at) #>> '{}' AS since,
        to_json(last_used_at) #>> '{}' AS "lastUsed"
      FROM passkey
      WHERE person_id = ${personId}
      ORDER BY id
    `,
    db<SessionRecord[]>`
      SELECT id, id = ${sessionId} AS here, to_json(created_at) #>> '{}' AS since,
        to_json(last_seen_at) #>> '{}' AS "lastSeen", to_json(expires_at) #>> '{}' AS until,
        address, agent
      FROM session
      WHERE person_id = ${personId} AND expires_at > now()
      ORDER BY id = ${sessionId} DESC, last_seen_at DESC
    `,
    readTokens(db, personId)
  ]);
  return {
    ...{ login, name, roles: person!.roles, passwordSince: person!.since },
    ...{
      hasPassword: person!.hasPassword,
      factors,
      passkeys,
      badge: person!.badge,
      sessions,
      tokens
    }
  };
}

/** Ends one of a person's sessions, or all but the one that asks. */
export async function endSessions(
  db: Db,
  { personId, sessionId }: Self,
  which: number | 'others'
): Promise<void> {
  await db`
    DELETE FROM session
    WHERE person_id = ${personId}
      AND ${which === 'others' ? db`id <> ${sessionId}` : db`id = ${which}`}
  `;
}
