import type { z } from 'zod';
import { isOver, turnOf } from '../../core/service/job-state.ts';
import type { Actor } from '../kernel/actor.ts';
import { within, type Sql, type Tx } from '../kernel/db/client.ts';
import { requireRight } from '../kernel/rights.ts';
import { addStep, lockJob, refused, type JobRow } from './job-row.ts';
import { tellTurn } from './messages.ts';
import type { ServiceNote, ServiceTurn } from './schemas.ts';

/**
 * Turns a job, or changes what is decided of it. The customer is told where the company tells of such
 * turns.
 * @throws Problem 403, 404, 422 where it may not turn so
 */
export async function turnJob(
  sql: Sql,
  actor: Actor,
  number: string,
  given: z.infer<typeof ServiceTurn>
): Promise<void> {
  requireRight(actor, 'service');
  await within(sql, async (tx) => {
    const job = await lockJob(tx, number);
    const decided = {
      ...(given.underWarranty === undefined ? {} : { under_warranty: given.underWarranty }),
      ...(given.charged === undefined ? {} : { charged: given.charged }),
      ...(given.promised === undefined ? {} : { promised_on: given.promised })
    };
    if (isOver(job.state) && Object.keys(decided).length > 0)
      throw refused('number', `${job.number} is ${job.state}: what was decided stands.`);
    if (Object.keys(decided).length > 0)
      await tx`UPDATE service_job SET ${tx(decided)} WHERE id = ${job.id}`;
    if (given.state !== undefined) await turn(tx, actor, job, given.state, given.note);
    else if (given.note !== '') await addStep(tx, actor, job.id, { kind: 'act', note: given.note });
  });
}

async function turn(
  tx: Tx,
  actor: Actor,
  job: JobRow,
  state: JobRow['state'],
  note: string
): Promise<void> {
  const may = turnOf(job.state, state, note);
  if (!may.ok) throw refused('state', may.why);
  await tx`
    UPDATE service_job
    SET state = ${state}, ended_at = ${state === 'ended' ? new Date() : null}
    WHERE id = ${job.id}
  `;
  await addStep(tx, actor, job.id, { kind: 'state', state, note });
  await tellTurn(tx, job, state);
}

/** Keeps what was found, or what was done and how long it took. @throws Problem 403, 404, 422 */
export async function noteOnJob(
  sql: Sql,
  actor: Actor,
  key: string,
  number: string,
  { kind, note, minutes }: z.infer<typeof ServiceNote>
): Promise<void> {
  requireRight(actor, 'service');
  await within(sql, async (tx) => {
    const job = await lockJob(tx, number);
    if (isOver(job.state))
      throw refused('number', `${job.number} is ${job.state}: nothing is added to it any more.`);
    await addStep(tx, actor, job.id, { kind, note, minutes: minutes ?? null, key });
  });
}
