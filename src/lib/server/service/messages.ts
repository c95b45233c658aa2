import type { JobState } from '../../core/service/job-state.ts';
import { sayTurn } from '../../core/papers/say-turn.ts';
import { company } from '../catalogue/company.ts';
import type { Tx } from '../kernel/db/client.ts';
import type { JobRow } from './job-row.ts';
import { sayTracking } from './tracking.ts';

/**
 * Tells the customer of a turn, where the company tells of such turns and the job has an address: a
 * letter in the outbox, kept as it was sent.
 */
export async function tellTurn(tx: Tx, job: JobRow, state: JobState): Promise<void> {
  if (job.email === '') return;
  const [settings] = await tx<{ tells: string[]; tracking: boolean }[]>`
    SELECT tells, tracking FROM service_settings
  `;
  if (!settings?.tells.includes(state)) return;
  const own = await company(tx);
  const turn = {
    ...{ state, number: job.number, product: job.product, serial: job.serial },
    from: own.name,
    tracking: settings.tracking ? sayTracking(job.tracking) : null
  };
  const { subject, body } = sayTurn(turn, job.language);
  await tx`
    INSERT INTO service_message (job_id, state, address, subject, body)
    VALUES (${job.id}, ${state}, ${job.email}, ${subject}, ${body})
  `;
}
