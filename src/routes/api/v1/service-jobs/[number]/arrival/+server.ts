import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { idempotencyKey, readBody } from '$lib/server/http/read-body.ts';
import { today } from '$lib/server/kernel/clock.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readJob } from '$lib/server/service/read-job.ts';
import { ServiceArrival } from '$lib/server/service/schemas.ts';
import { arriveForService } from '$lib/server/service/take-in.ts';

/** The unit a job waits for is here. */
export const POST: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    const given = await readBody(request, ServiceArrival);
    await arriveForService(db(), locals.actor!, key, params.number, given);
    return jsonResponse(await readJob(db(), params.number, today()), 201);
  });
