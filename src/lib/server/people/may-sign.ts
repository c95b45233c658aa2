import type { Actor } from '../kernel/actor.ts';
import type { Db } from '../kernel/db/client.ts';
import { Problem } from '../kernel/problem.ts';

/** So long a password that somebody else set signs nothing: its person notices in that time. */
const OTHERS_PASSWORD_HOURS = 24;

/**
 * A signature is a person's own: given at a screen they signed in at, and not by a password that
 * somebody else has just set and still knows.
 * @throws Problem 403
 */
export async function maySign(
  db: Db,
  actor: Pick<Actor, 'personId' | 'via' | 'quick'>
): Promise<void> {
  atScreen(actor);
  if (actor.quick)
    throw cannot(
      '',
      'Badge and PIN sign nothing. Lock the screen and come back with your password.'
    );
  await ownPassword(db, actor.personId);
}

/** A signature is given where a person signed in. @throws Problem 403 for a token */
export function atScreen({ via }: Pick<Actor, 'via'>): void {
  if (via !== 'session') throw cannot('', 'A token cannot sign: sign in, and sign there yourself.');
}

/**
 * Whether the password of a person is their own for long enough to sign with it.
 * @throws Problem 403
 */
export async function ownPassword(db: Db, personId: number): Promise<void> {
  const [set] = await db<{ by: string }[]>`
    SELECT b.name AS by
    FROM person p
      JOIN person b ON b.id = p.password_set_by
    WHERE p.id = ${personId}
      AND b.id <> p.id
      AND p.password_set_at > clock_timestamp() - make_interval(hours => ${OTHERS_PASSWORD_HOURS})
  `;
  if (!set) return;
  const message = `${set.by} set this password less than a day ago, so two know it. It signs once a day has gone by.`;
  throw cannot('password', message);
}

const cannot = (path: string, message: string): Problem =>
  new Problem(403, 'A person signs', [{ code: 'right.missing', path, message }]);
