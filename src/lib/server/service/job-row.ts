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
  customerName: string;
  email: string;
  place: string | null;
}

const jobRow = (db: Db) => db`
  SELECT j.id, j.number, j.tracking, j.state, p.code AS product, j.serial, j.mark_id AS mark,
    t.code AS customer, t.name AS "customerName", j.contact_email AS email, c.code AS place
  FROM service_job j
    JOIN product p ON p.id = j.product_id
    JOIN partner t ON t.id = j.customer_id
    LEFT JOIN place c ON c.id = j.place_id
`;

/** @throws Problem 404 */
export async function readJobRow(db: Db, number: string): Promise<JobRow> {
  const [row] = await db<JobRow[]>`
    ${jobRow(db)} WHERE upper(j.number) = ${numberKey(number)}
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
