import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { Promises } from '$lib/server/api/schemas';
import { promise } from '$lib/server/catalogue/promises';
import { db } from '$lib/server/db/client';
import { today } from '$lib/server/today';

export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const { until, lines } = await readBody(request, Promises);
    return jsonResponse(await promise(db(), locals.actor!, params.number, lines, until, today()));
  });
