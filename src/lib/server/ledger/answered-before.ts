import type { Actor } from '../kernel/actor.ts';
import type { Tx } from '../kernel/db/client.ts';

/** The answer a booking got that was sent under this key before; null where there was none. */
export async function answeredBefore(
  tx: Tx,
  actor: Actor,
  key: string
): Promise<{ answer: string; fresh: boolean } | null> {
  const [row] = await tx<{ answer: string }[]>`
    SELECT answer FROM booking_key WHERE person_id = ${actor.personId} AND key = ${key}
  `;
  return row ? { answer: row.answer, fresh: false } : null;
}
