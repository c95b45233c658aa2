import type { z } from 'zod';
import { shown } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import { within, type Sql, type Tx } from '../kernel/db/client.ts';
import { requireRight } from '../kernel/rights.ts';
import { answeredBefore } from '../ledger/answered-before.ts';
import { book } from '../ledger/book.ts';
import { findMarkId } from '../ledger/find-mark.ts';
import { mustBeHere } from './fit-job.ts';
import { addStep, lockJob, refused, type JobRow } from './job-row.ts';
import { goesBack } from './kinds.ts';
import { tellTurn } from './messages.ts';
import { releaseUnit } from './release-unit.ts';
import type { ServiceReturn } from './schemas.ts';

/** A unit that leaves on a job: its own, or another in its place. */
interface Leaving {
  product: string;
  serial: string;
}

/**
 * Sends the unit of a job back, or another in its place, and ends the job. What held the unit since
 * it came in is released; what somebody else held stays held, and stops it.
 * @throws Problem 403, 404, 422 with all faults
 */
export async function sendBack(
  sql: Sql,
  actor: Actor,
  key: string,
  number: string,
  given: z.infer<typeof ServiceReturn>
): Promise<{ answer: string; fresh: boolean }> {
  requireRight(actor, 'service');
  return within(sql, async (tx) => {
    const job = await lockJob(tx, number);
    const shipKey = `service back ${key}`;
    const again = await answeredBefore(tx, actor, shipKey);
    if (again) return again;
    mustBeHere(job);
    const leaving = given.exchange ?? { product: job.product, serial: job.serial };
    if (given.exchange) await keepExchange(tx, job, given.exchange);
    else await releaseUnit(tx, actor, key, job, { signature: given.signature });
    const booked = await book(tx, goesBack(job.id), actor, shipKey, {
      document: job.number,
      customer: given.customer ?? job.customer,
      ...(given.reference ? { reference: given.reference } : {}),
      lines: [{ product: leaving.product, marks: [{ serial: leaving.serial }] }]
    });
    await end(tx, actor, job, given.exchange);
    return booked;
  });
}

async function keepExchange(tx: Tx, job: JobRow, { product, serial }: Leaving): Promise<void> {
  const mark = await findMarkId(tx, product, undefined, serial);
  if (mark === null || mark === job.mark) {
    const message = mark
      ? 'That is the unit of the job itself. Send it back, or name another.'
      : `There is no serial ${shown(serial)} of ${shown(product)}. Check the number.`;
    throw refused('exchange', message, { code: 'mark.unknown', number: shown(serial) });
  }
  await tx`UPDATE service_job SET exchange_mark = ${mark} WHERE id = ${job.id}`;
}

async function end(
  tx: Tx,
  actor: Actor,
  job: JobRow,
  exchange: Leaving | undefined
): Promise<void> {
  await tx`
    UPDATE service_job
    SET state = 'sent back', ended_at = clock_timestamp(), left_at = clock_timestamp()
    WHERE id = ${job.id}
  `;
  const note = exchange ? `${exchange.product} ${exchange.serial} went in its place.` : '';
  await addStep(tx, actor, job.id, { kind: 'state', state: 'sent back', note });
  await tellTurn(tx, job, 'sent back');
}
