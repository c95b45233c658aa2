import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { Swap } from '$lib/server/api/schemas';
import { swapMark } from '$lib/server/catalogue/pick-list';
import { db } from '$lib/server/db/client';
import { today } from '$lib/server/today';

export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const { from, to } = await readBody(request, Swap);
    return jsonResponse(await swapMark(db(), locals.actor!, params.number, from, to, today()));
  });
