import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { putFault } from '$lib/server/service/settings.ts';
import { ServiceFault } from '$lib/server/service/schemas.ts';

/** A word of the list faults are counted by. */
export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const { name } = await readBody(request, ServiceFault);
    return jsonResponse(await putFault(db(), locals.actor!, params.code, name));
  });
