import type { Sql } from '../kernel/db/client.ts';
import { newSecret, secretHash } from './password.ts';

/** A session lives this long after sign-in: one long shift. Source: OWASP ASVS 4.0.3, 3.3.2, level 2. */
const SESSION_HOURS = 12;

/** A browser tells what it is in so many characters at most. */
const MOST_AGENT = 300;

export interface SessionOpened {
  secret: string;
  expires: Date;
}

interface Opening {
  person: number;
  /** Where the request came from, and what its browser says it is, to tell it from others. */
  address: string;
  agent: string;
  /** Whether a second factor was shown on the way. */
  factorShown?: boolean;
  /** Whether they came by an identity provider. */
  elsewhere?: boolean;
}

/** Opens a session of a person who showed who they are. */
export async function openSession(
  sql: Sql,
  { person, address, agent, factorShown = false, elsewhere = false }: Opening
): Promise<SessionOpened> {
  const secret = newSecret();
  const expires = new Date(Date.now() + SESSION_HOURS * 3_600_000);
  await sql`
    INSERT INTO session (token_hash, person_id, expires_at, address, agent, factor_at, elsewhere)
    VALUES (
      ${secretHash(secret)}, ${person}, ${expires}, ${address.slice(0, 100)},
        ${agent.slice(0, MOST_AGENT)}, CASE WHEN ${factorShown} THEN clock_timestamp() END,
        ${elsewhere}
    )
  `;
  // What is long past is of no use; a sign-in is a good moment to clear it away.
  await sql`DELETE FROM session WHERE expires_at < now()`;
  await sql`DELETE FROM sign_in_attempt WHERE at < now() - interval '30 days'`;
  return { secret, expires };
}
