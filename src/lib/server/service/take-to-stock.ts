import type { z } from 'zod';
import { mayDo } from '../../core/people/rights.ts';
import type { Actor } from '../kernel/actor.ts';
import { within, type Sql, type Tx } from '../kernel/db/client.ts';
import { requireRight } from '../kernel/rights.ts';
import { toldAt } from '../kernel/told-at.ts';
import { book } from '../ledger/book.ts';
import { mustBeHere } from './fit-job.ts';
import { addStep, lockJob, type JobRow } from './job-row.ts';
import { isRenumbered } from './kinds.ts';
import { tellTurn } from './messages.ts';
import { releaseUnit } from './release-unit.ts';
import type { ServiceStock } from './schemas.ts';

/**
 * A reconditioned unit stays and is stock of ours from now on, under its number or a new one: it is
 * the same unit, so both lives stand on one page and either number finds it. The job ends. It is free
 * at once where whoever says so may decide quality; else it stays held until somebody who may does.
 * @param key idempotency key: sent again, it answers the same
 * @returns the number it has now, and whether it is still held
 * @throws Problem 403, 404, 422 with all faults
 */
export async function takeToStock(
  sql: Sql,
  actor: Actor,
  key: string,
  number: string,
  { serial, reason, signature }: z.infer<typeof ServiceStock>
): Promise<{ serial: string; held: boolean }> {
  requireRight(actor, 'service');
  return within(sql, async (tx) => {
    const job = await lockJob(tx, number);
    if (await wasKept(tx, actor, job, key)) return standing(tx, job);
    mustBeHere(job);
    const now =
      serial === undefined ? job.serial : await renumber(tx, actor, key, job, serial, signature);
    if (mayDo(actor.roles, 'decide.quality'))
      await releaseUnit(tx, actor, key, job, { serial: now, signature });
    await tx`UPDATE service_job SET state = 'ended', ended_at = clock_timestamp() WHERE id = ${job.id}`;
    const named = now === job.serial ? '' : ` as ${now}`;
    const note = `Into our stock${named}: ${reason}`;
    await addStep(tx, actor, job.id, { kind: 'state', state: 'ended', note, key });
    await tellTurn(tx, job, 'ended');
    return standing(tx, job);
  });
}

const CANNOT_NUMBER = {
  title: 'The unit cannot have this number',
  detail: 'Nothing was changed.'
};

/** The same unit under another number. @returns it, as it is written */
async function renumber(
  tx: Tx,
  actor: Actor,
  key: string,
  job: JobRow,
  serial: string,
  signature: string | undefined
): Promise<string> {
  const renumbered = () =>
    book(tx, isRenumbered(job.id), actor, `service number ${key}`, {
      document: job.number,
      reason: `Reconditioned, ${job.number}.`,
      lines: [{ product: job.product, serial: job.serial, to: { number: serial } }],
      ...(signature ? { signature } : {})
    });
  await toldAt(renumbered, () => 'serial', CANNOT_NUMBER);
  return (await standing(tx, job)).serial;
}

async function wasKept(tx: Tx, actor: Actor, job: JobRow, key: string): Promise<boolean> {
  const [step] = await tx`
    SELECT
    FROM service_step
    WHERE job_id = ${job.id} AND by = ${actor.personId} AND key = ${key} AND kind = 'state'
  `;
  return step !== undefined;
}

/** The number it has, and whether it is held. */
async function standing(tx: Tx, { mark }: JobRow): Promise<{ serial: string; held: boolean }> {
  const [row] = await tx<[{ serial: string; held: boolean }]>`
    SELECT number AS serial, state = 'held' AS held FROM mark WHERE id = ${mark}
  `;
  return row;
}
