import type { z } from 'zod';
import type { JobState } from '../../core/service/job-state.ts';
import type { Actor } from '../kernel/actor.ts';
import { cleanCode } from '../kernel/code.ts';
import type { Db, Sql } from '../kernel/db/client.ts';
import { requireRight } from '../kernel/rights.ts';
import type { ServiceSettings } from './schemas.ts';

/** What may stand on a unit’s public page. */
export type Shown = 'made' | 'warranty' | 'recall';

export interface Settings {
  /** Whether a job has a page by its tracking number, and a unit one by its Digital Link. */
  tracking: boolean;
  unitPages: boolean;
  shows: Shown[];
  howToSend: string;
  /** Turns of a job its customer is told of. */
  tells: JobState[];
}

export async function readSettings(db: Db): Promise<Settings> {
  const [row] = await db<[Settings]>`
    SELECT tracking, unit_pages AS "unitPages", shows, how_to_send AS "howToSend", tells
    FROM service_settings
  `;
  return row;
}

/** @throws Problem 403 */
export async function keepSettings(
  sql: Sql,
  actor: Actor,
  { tracking, unitPages, shows, howToSend, tells }: z.infer<typeof ServiceSettings>
): Promise<void> {
  requireRight(actor, 'edit.catalogue');
  await sql`
    UPDATE service_settings
    SET tracking = ${tracking}, unit_pages = ${unitPages}, shows = ${shows as string[]},
      how_to_send = ${howToSend}, tells = ${tells as string[]}
  `;
}

/** A word of the list faults are counted by. */
export interface Fault {
  code: string;
  name: string;
}

export const listFaults = (db: Db): Promise<Fault[]> =>
  db<Fault[]>`SELECT code, name FROM service_fault ORDER BY code`;

/** @throws Problem 403, 422 */
export async function putFault(
  sql: Sql,
  actor: Actor,
  pathCode: string,
  name: string
): Promise<Fault> {
  requireRight(actor, 'edit.catalogue');
  const code = cleanCode(pathCode, 'fault').toUpperCase();
  await sql`
    INSERT INTO service_fault (code, name)
    VALUES (${code}, ${name})
    ON CONFLICT (code) DO UPDATE SET name = excluded.name
  `;
  return { code, name };
}
