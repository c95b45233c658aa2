import { readPictureFile } from '../catalogue/picture-file.ts';
import type { Actor } from '../kernel/actor.ts';
import { within, type Db, type Sql } from '../kernel/db/client.ts';
import { notFound } from '../kernel/problem.ts';
import { requireRight } from '../kernel/rights.ts';
import { lockJob, readJobRow, refused } from './job-row.ts';

/** Most photographs of one job: enough to show a fault, too few to fill a disk. */
const MOST_PHOTOS = 30;

/** Keeps a photograph. @throws Problem 403, 404, 422 where it is none, or there are enough */
export async function addPhoto(
  sql: Sql,
  actor: Actor,
  number: string,
  bytes: Uint8Array
): Promise<number> {
  requireRight(actor, 'service');
  const file = readPictureFile(bytes);
  if (!file.ok)
    throw refused('photo', `The photograph cannot be kept: ${file.why}.`, {
      code: 'request.malformed'
    });
  return within(sql, async (tx) => {
    const job = await lockJob(tx, number);
    const [there] = await tx<[{ n: number }]>`
      SELECT count(*)::int AS n FROM service_photo WHERE job_id = ${job.id}
    `;
    if (there.n >= MOST_PHOTOS)
      throw refused('photo', `${job.number} has ${there.n} photographs; more are not kept.`);
    const [row] = await tx<[{ id: number }]>`
      INSERT INTO service_photo (job_id, type, bytes, by)
      VALUES (${job.id}, ${file.type}, ${bytes as never}, ${actor.personId})
      RETURNING id
    `;
    return row.id;
  });
}

/** A photograph of a job. @throws Problem 404 */
export async function readPhoto(
  db: Db,
  number: string,
  id: string
): Promise<{ type: string; bytes: Uint8Array }> {
  const job = await readJobRow(db, number);
  const [photo] = /^\d{1,15}$/.test(id)
    ? await db<{ type: string; bytes: Uint8Array }[]>`
        SELECT type, bytes FROM service_photo WHERE job_id = ${job.id} AND id = ${Number(id)}
      `
    : [];
  return photo ?? notFound('photograph', id);
}
