import type { Actor } from '../kernel/actor.ts';
import type { Tx } from '../kernel/db/client.ts';
import { book } from '../ledger/book.ts';
import type { JobRow } from './job-row.ts';
import { isReleased } from './kinds.ts';

/**
 * Releases the unit of a job where it is held only because it came in: by its return or intake, and
 * by nobody since. What somebody else held stays held.
 * @param now the number it has now, and what signs it where its plan asks for that
 */
export async function releaseUnit(
  tx: Tx,
  actor: Actor,
  key: string,
  job: JobRow,
  now: { serial?: string; signature?: string | undefined } = {}
): Promise<void> {
  const [held] = await tx<{ kind: string }[]>`
    SELECT e.kind
    FROM mark m
      JOIN mark_change c ON c.mark_id = m.id AND c.field = 'state'
      JOIN event e ON e.id = c.event_id
    WHERE m.id = ${job.mark} AND m.state = 'held'
    ORDER BY c.id DESC
    LIMIT 1
  `;
  if (!held || !['return', 'intake'].includes(held.kind)) return;
  await book(tx, isReleased(job.id), actor, `service release ${key}`, {
    document: job.number,
    kind: 'release',
    reason: `Serviced, ${job.number}.`,
    marks: [{ product: job.product, serial: now.serial ?? job.serial }],
    ...(now.signature ? { signature: now.signature } : {})
  });
}
