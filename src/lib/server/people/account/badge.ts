import type { Db, Sql } from '../../kernel/db/client.ts';
import { Problem } from '../../kernel/problem.ts';
import { hashPassword, secretHash } from '../password.ts';

/** A PIN has so many digits at least: with six guesses in a quarter of an hour it is not found. */
const PIN = /^\d{6,12}$/;

const isPlain = (pin: string): boolean =>
  /^(\d)\1+$/.test(pin) || '012345678901'.includes(pin) || '987654321098'.includes(pin);

/**
 * Ties a badge to a person, in place of the one before.
 * @throws Problem 422 where the PIN is none or the badge is somebody else's
 */
export async function keepBadge(
  sql: Sql,
  personId: number,
  { badge, pin }: { badge: string; pin: string }
): Promise<void> {
  if (!PIN.test(pin) || isPlain(pin))
    throw refusal('pin', 'A PIN has 6 to 12 digits, not all the same and not in a row.');
  const pinHash = await hashPassword(pin);
  const kept = await sql`
    INSERT INTO badge (person_id, badge_hash, pin_hash)
    SELECT ${personId}::bigint, ${secretHash(badge.trim())}, ${pinHash}
    WHERE NOT EXISTS (
      SELECT FROM badge WHERE badge_hash = ${secretHash(badge.trim())} AND person_id <> ${personId}
    )
    ON CONFLICT (person_id) DO UPDATE
    SET badge_hash = EXCLUDED.badge_hash, pin_hash = EXCLUDED.pin_hash, created_at = now()
    RETURNING person_id
  `;
  if (kept.length === 0) throw refusal('badge', 'This badge is somebody else’s. Take another one.');
}

export async function dropBadge(db: Db, personId: number): Promise<void> {
  await db`DELETE FROM badge WHERE person_id = ${personId}`;
}

const refusal = (path: string, message: string): Problem =>
  new Problem(422, 'The badge was not kept', [{ code: 'number.malformed', path, message }]);
