import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { idempotencyKey, readBody } from '$lib/server/http/read-body.ts';
import { today } from '$lib/server/kernel/clock.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { noteOnJob } from '$lib/server/service/change-job.ts';
import { readJob } from '$lib/server/service/read-job.ts';
import { ServiceNote } from '$lib/server/service/schemas.ts';

/** What was found, or what was done and how long it took. */
export const POST: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    const given = await readBody(request, ServiceNote);
    await noteOnJob(db(), locals.actor!, key, params.number, given);
    return jsonResponse(await readJob(db(), params.number, today()), 201);
  });
