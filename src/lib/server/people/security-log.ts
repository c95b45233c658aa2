import pino from 'pino';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import type { SecurityKind, SecurityLine } from '../../core/people/security-event.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import type { Db } from '../kernel/db/client.ts';
import { takeFrom } from '../kernel/take-from.ts';

/** What is told of one act. */
export interface SecurityAct {
  kind: SecurityKind;
  actor?: Pick<Actor, 'personId' | 'login' | 'tokenId'> | null;
  login?: string;
  address: string;
  about?: string;
}

/**
 * Lines of one kind, of one person at one address, in a minute: whoever is refused in a loop does not
 * fill the disk.
 */
const MOST_A_MINUTE = 60;
const lines = new RateLimiterMemory({ points: MOST_A_MINUTE, duration: 60 });

let collector: pino.Logger | null = null;
/** A collector reads the same as a line of JSON each, from the file of EARMARK_SECURITY_LOG. */
function tellCollector(act: SecurityAct): void {
  const file = process.env.EARMARK_SECURITY_LOG;
  if (!file) return;
  collector ??= pino(
    { base: null, timestamp: pino.stdTimeFunctions.isoTime },
    pino.destination({ dest: file, append: true, mkdir: true, sync: true })
  );
  const { kind, actor, login = '', address, about = '' } = act;
  collector.info({ kind, who: actor?.login ?? login, token: actor?.tokenId, address, about });
}

/** Adds a line to the security log. */
export async function logSecurity(db: Db, act: SecurityAct): Promise<void> {
  const { kind, actor, login = '', address, about = '' } = act;
  const room = await takeFrom(lines, `${kind} ${actor?.personId ?? login} ${address}`);
  if (!room.ok) return;
  tellCollector(act);
  await db`
    INSERT INTO security_log (kind, person_id, token_id, login, address, about)
    VALUES (
      ${kind}, ${actor?.personId ?? null}, ${actor?.tokenId ?? null}, ${login.slice(0, 100)},
        ${address.slice(0, 100)}, ${about.slice(0, 300)}
    )
  `;
}

/** Which lines are asked for. */
export interface SecurityAsked {
  kind?: SecurityKind | undefined;
  /** Sign-in of a person. */
  who?: string | undefined;
  from?: string | undefined;
  to?: string | undefined;
  /** Lines before this one. */
  before?: number | undefined;
}

/** Lines of the log, the latest first. */
export async function readSecurityLog(
  db: Db,
  { kind, who, from, to, before }: SecurityAsked,
  most: number
): Promise<SecurityLine[]> {
  return db<SecurityLine[]>`
    SELECT l.id, to_json(l.at) #>> '{}' AS at, l.kind, p.name AS who, l.login, t.name AS token,
      l.address, l.about
    FROM security_log l
      LEFT JOIN person p ON p.id = l.person_id
      LEFT JOIN api_token t ON t.id = l.token_id
    WHERE (${kind ?? null}::text IS NULL OR l.kind = ${kind ?? null})
      AND (
        ${who ?? null}::text IS NULL
        OR upper(coalesce(p.login, l.login)) = ${who === undefined ? null : numberKey(who)}
      )
      AND (${from ?? null}::date IS NULL OR l.at >= ${from ?? null}::date)
      AND (${to ?? null}::date IS NULL OR l.at < ${to ?? null}::date + 1)
      AND l.id < ${before ?? Number.MAX_SAFE_INTEGER}
    ORDER BY l.id DESC
    LIMIT ${most}
  `;
}
