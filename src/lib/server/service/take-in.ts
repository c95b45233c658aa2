import { numberKey, shown } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import { within, type Sql, type Tx } from '../kernel/db/client.ts';
import { requireRight } from '../kernel/rights.ts';
import { answeredBefore } from '../ledger/answered-before.ts';
import { book } from '../ledger/book.ts';
import { addStep, lockJob, refused, type JobRow } from './job-row.ts';
import { comesBack, comesIn } from './kinds.ts';
import { tellTurn } from './messages.ts';

/** An awaited unit is here. @throws Problem 403, 404, 409 where it is here already, 422 */
export async function arriveForService(
  sql: Sql,
  actor: Actor,
  key: string,
  number: string,
  { place, lot }: { place: string; lot?: string | undefined }
): Promise<void> {
  requireRight(actor, 'service');
  await within(sql, async (tx) => {
    const job = await lockJob(tx, number);
    if (await answeredBefore(tx, actor, `service in ${key}`)) return;
    if (job.state !== 'waiting for unit')
      throw refused('number', `${job.number} is not waiting for its unit: it is ${job.state}.`, {
        status: 409
      });
    await takeIn(tx, actor, `service in ${key}`, job, place, lot);
  });
}

/**
 * Takes the unit of a job in: what we sent out comes back by a return, what nobody here knows begins
 * with an intake, and what lies here already stays where it lies.
 * @throws Problem 422 where there is no such place, or the unit cannot have come from a customer
 */
export async function takeIn(
  tx: Tx,
  actor: Actor,
  key: string,
  job: JobRow,
  place: string,
  lot?: string
): Promise<void> {
  await mustBePlace(tx, place);
  const unit = { product: job.product, serial: job.serial, ...(lot ? { lot } : {}) };
  if (job.mark === null)
    await book(tx, comesIn(job.id), actor, key, { document: job.number, place, ...unit });
  else if (!(await liesHere(tx, job.mark)))
    await book(tx, comesBack(job.id), actor, key, { document: job.number, place, lines: [unit] });
  await tx`
    UPDATE service_job j
    SET state = 'to look at', taken_in_at = clock_timestamp(), mark_id = m.id,
      place_id = (SELECT s.place_id FROM stock s WHERE s.mark_id = m.id AND s.quantity > 0 LIMIT 1)
    FROM mark m
    WHERE j.id = ${job.id}
      AND m.product_id = j.product_id
      AND m.kind = 'serial'
      AND m.number_key = ${numberKey(job.serial)}
  `;
  await addStep(tx, actor, job.id, { kind: 'state', state: 'to look at' });
  await tellTurn(tx, job, 'to look at');
}

async function mustBePlace(tx: Tx, code: string): Promise<void> {
  const [place] = await tx`
    SELECT FROM place WHERE upper(code) = ${numberKey(code)} AND kind <> 'transit'
  `;
  if (place) return;
  const message = `There is no place ${shown(code)}. Check the code in Setup → Places.`;
  throw refused('place', message, { code: 'place.unknown', number: shown(code) });
}

async function liesHere(tx: Tx, mark: number): Promise<boolean> {
  const [row] = await tx`SELECT FROM stock WHERE mark_id = ${mark} AND quantity > 0`;
  return row !== undefined;
}
