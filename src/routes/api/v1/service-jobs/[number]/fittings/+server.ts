import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { idempotencyKey, readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { fitInJob } from '$lib/server/service/fit-job.ts';
import { JobFitting } from '$lib/server/service/schemas.ts';

/** Parts of the unit are swapped, under the job’s number. */
export const POST: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    const given = await readBody(request, JobFitting);
    const { answer, fresh } = await fitInJob(db(), locals.actor!, key, params.number, given);
    return jsonResponse(answer, fresh ? 201 : 200);
  });
