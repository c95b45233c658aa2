import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { idempotencyKey, readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listOpenJobs } from '$lib/server/service/list-jobs.ts';
import { openJob } from '$lib/server/service/open-job.ts';
import { NewServiceJob } from '$lib/server/service/schemas.ts';

/** Open jobs, oldest promise first. */
export const GET: RequestHandler = () =>
  answering(async () => jsonResponse(await listOpenJobs(db())));

/** Opens a job on a unit, taken in now or awaited. */
export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    const given = await readBody(request, NewServiceJob);
    const { opened, fresh } = await openJob(db(), locals.actor!, key, given);
    return jsonResponse(opened, fresh ? 201 : 200);
  });
