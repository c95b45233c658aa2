import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { today } from '$lib/server/kernel/clock.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { turnJob } from '$lib/server/service/change-job.ts';
import { readJob } from '$lib/server/service/read-job.ts';
import { ServiceTurn } from '$lib/server/service/schemas.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => jsonResponse(await readJob(db(), params.number, today())));

/** Turns a job, or changes what is decided of it. */
export const PATCH: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    await turnJob(db(), locals.actor!, params.number, await readBody(request, ServiceTurn));
    return jsonResponse(await readJob(db(), params.number, today()));
  });
