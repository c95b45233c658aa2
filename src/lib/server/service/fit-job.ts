import type { z } from 'zod';
import { numberKey } from '../../core/numbers/number.ts';
import { isOver } from '../../core/service/job-state.ts';
import type { Actor } from '../kernel/actor.ts';
import { within, type Sql, type Tx } from '../kernel/db/client.ts';
import { requireRight } from '../kernel/rights.ts';
import { answeredBefore } from '../ledger/answered-before.ts';
import { book } from '../ledger/book.ts';
import { lockJob, refused, type JobRow } from './job-row.ts';
import { fitsParts } from './kinds.ts';
import type { JobFitting } from './schemas.ts';

/**
 * Swaps parts of the unit of a job, under the job’s number.
 * @throws Problem 403, 404, 422 with all faults, or where another unit is named or it is not here
 */
export async function fitInJob(
  sql: Sql,
  actor: Actor,
  key: string,
  number: string,
  given: z.infer<typeof JobFitting>
): Promise<{ answer: string; fresh: boolean }> {
  requireRight(actor, 'service');
  return within(sql, async (tx) => {
    const job = await lockJob(tx, number);
    const again = await answeredBefore(tx, actor, key);
    if (again) return again;
    mustBeHere(job);
    for (const [at, unit] of given.units.entries()) await mustBeOfJob(tx, job, unit, at);
    return book(tx, fitsParts(job.id), actor, key, { ...given, document: job.number } as never);
  });
}

/** Parts change in the unit of the job, and in what came out of it on this job. */
async function mustBeOfJob(
  tx: Tx,
  job: JobRow,
  { product, serial = '' }: { product: string; serial?: string | undefined },
  at: number
): Promise<void> {
  const same =
    numberKey(product) === numberKey(job.product) && numberKey(serial) === numberKey(job.serial);
  if (same) return;
  const [cameOut] = await tx`
    SELECT
    FROM service_event x
      JOIN removal r ON r.event_id = x.event_id
      JOIN mark m ON m.id = r.component_id
      JOIN product p ON p.id = m.product_id
    WHERE x.job_id = ${job.id}
      AND m.number_key = ${numberKey(serial)}
      AND upper(p.code) = ${numberKey(product)}
    LIMIT 1
  `;
  if (cameOut) return;
  const message = `${job.number} is of ${job.product} ${job.serial}, and of what came out of it. Open a job for another unit.`;
  throw refused(`units[${at}]`, message, { code: 'mark.wrong-product' });
}

/** @throws Problem 422 where the unit of a job is not in our hands */
export function mustBeHere(job: JobRow): void {
  if (isOver(job.state)) throw refused('number', `${job.number} is ${job.state}.`);
  if (job.state === 'waiting for unit')
    throw refused(
      'number',
      `${job.product} ${job.serial} is still at the customer’s: ${job.number} waits for it. Take it in first.`
    );
}
