import type { Factors } from '../../../core/people/account.ts';
import type { Db, Sql, Tx } from '../../kernel/db/client.ts';
import { Problem } from '../../kernel/problem.ts';
import { attemptSucceeded, requireAttempt } from '../attempts.ts';
import { newSecret, secretHash } from '../password.ts';
import { logSecurity } from '../security-log.ts';
import { takePasskey, type Site } from './passkeys.ts';
import type { Self } from './self.ts';
import { takeRecoveryCode } from './recovery-codes.ts';
import { takeTimeCode } from './time-codes.ts';

export async function factorsOf(db: Db, personId: number): Promise<Factors> {
  const [row] = await db<[Factors]>`
    SELECT EXISTS (
        SELECT FROM time_code WHERE person_id = ${personId} AND confirmed_at IS NOT NULL
      ) AS "timeCode",
      (SELECT count(*)::int FROM passkey WHERE person_id = ${personId}) AS passkeys,
      (
        SELECT count(*)::int
        FROM recovery_code
        WHERE person_id = ${personId} AND used_at IS NULL
      ) AS recovery
  `;
  return row;
}

/** What is shown as the second factor: a code, of time or of recovery, or a passkey's answer. */
export interface Shown {
  code?: string | undefined;
  passkey?: unknown;
}

/** A session under a new secret. */
export interface Renewed {
  secret: string;
  expires: Date;
}

/** The word that stands for an address where guesses of codes are counted. */
const AT = 'second factor';

/**
 * Takes a session's second factor. From then on it is a session under another secret, so that what
 * somebody may have seen before is of no use.
 * @param address where it came from, for the security log
 * @returns the session under its new secret
 * @throws Problem 422 where it is not right, 429 after too many
 */
export async function showFactor(
  sql: Sql,
  actor: Self,
  site: Site,
  address: string,
  { code, passkey }: Shown
): Promise<Renewed> {
  await requireAttempt(sql, actor.login, AT, 'code');
  const renewed = await sql.begin(async (tx) => {
    const isRight =
      passkey === undefined
        ? await takeCode(tx, actor.personId, code ?? '')
        : await takePasskey(
            tx,
            { personId: actor.personId, sessionId: actor.sessionId },
            site,
            passkey
          );
    return isRight ? renewSession(tx, actor.sessionId) : null;
  });
  if (renewed === null) {
    const { login } = actor;
    await logSecurity(sql, { kind: 'sign-in refused', login, address, about: AT });
    throw new Problem(422, 'That is not it', [
      passkey === undefined
        ? {
            code: 'right.missing',
            path: 'code',
            message:
              'The code is wrong, or was used before. Type the one that stands there now, or a recovery code.'
          }
        : {
            code: 'right.missing',
            path: 'passkey',
            message: 'The passkey did not answer for you. Try again, or type a code.'
          }
    ]);
  }
  await attemptSucceeded(sql, actor.login, AT);
  return renewed;
}

const takeCode = async (tx: Tx, personId: number, code: string): Promise<boolean> =>
  /^\s*\d{3}\s?\d{3}\s*$/.test(code)
    ? takeTimeCode(tx, personId, code.replace(/\s/g, ''), false)
    : takeRecoveryCode(tx, personId, code);

async function renewSession(tx: Tx, sessionId: number): Promise<Renewed> {
  const secret = newSecret();
  const [row] = await tx<[{ expires: Date }]>`
    UPDATE session
    SET token_hash = ${secretHash(secret)}, factor_at = clock_timestamp()
    WHERE id = ${sessionId}
    RETURNING expires_at AS expires
  `;
  return { secret, expires: row.expires };
}
