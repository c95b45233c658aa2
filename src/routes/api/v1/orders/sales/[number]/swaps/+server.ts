import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Swap } from '$lib/server/shipping/schemas.ts';
import { swapMark } from '$lib/server/shipping/pick-list.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { today } from '$lib/server/kernel/clock.ts';

export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const given = await readBody(request, Swap);
    return jsonResponse(await swapMark(db(), locals.actor!, params.number, given, today()));
  });
