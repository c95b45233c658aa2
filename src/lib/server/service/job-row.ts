import type { Language } from '../../core/papers/language.ts';
import type { JobState } from '../../core/service/job-state.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import type { Db, Tx } from '../kernel/db/client.ts';
import { notFound, Problem } from '../kernel/problem.ts';

/** A job as others of its house need it: who, what, where it stands. */
export interface JobRow {
  id: number;
  number: string;
  tracking: string;
  state: JobState;
  product: string;
  serial: string;
  mark: number | null;
  customer: string;
  /** The one the customer reads. */
  language: Language;
  email: string;
}

/** @throws Problem 404 */
export async function readJobRow(db: Db, number: string): Promise<JobRow> {
  const [row] = await db<JobRow[]>`
    SELECT j.id, j.number, j.tracking, j.state, p.code AS product, j.serial, j.mark_id AS mark,
      t.code AS customer, t.language, j.contact_email AS email
    FROM service_job j
      JOIN product p ON p.id = j.product_id
      JOIN partner t ON t.id = j.customer_id
    WHERE upper(j.number) = ${numberKey(number)}
  `;
  return row ?? notFound('job', number);
}

/** The job of a number, and nobody else changes it meanwhile. @throws Problem 404 */
export async function lockJob(tx: Tx, number: string): Promise<JobRow> {
  await tx`SELECT FROM service_job WHERE upper(number) = ${numberKey(number)} FOR UPDATE`;
  return readJobRow(tx, number);
}

/** One thing that is wrong with a job. */
export const refused = (
  path: string,
  message: string,
  {
    code = 'job.turn',
    status = 422,
    number
  }: { code?: string; status?: number; number?: string } = {}
): Problem =>
  new Problem(status, 'The job cannot be changed like this', [
    { code, path, message, ...(number === undefined ? {} : { number }) }
  ]);

/** Writes what happened to a job into its history. */
export async function addStep(
  tx: Tx,
  actor: Actor,
  job: number,
  step: {
    kind: 'state' | 'finding' | 'act';
    state?: JobState;
    note?: string;
    minutes?: number | null;
    /** The key it was sent under: sent again, it is not written twice. */
    key?: string;
  }
): Promise<void> {
  const { kind, state = null, note = '', minutes = null, key = null } = step;
  await tx`
    INSERT INTO service_step (job_id, by, kind, state, note, minutes, key)
    VALUES (${job}, ${actor.personId}, ${kind}, ${state}, ${note}, ${minutes}, ${key})
    ON CONFLICT (by, key) DO NOTHING
  `;
}
