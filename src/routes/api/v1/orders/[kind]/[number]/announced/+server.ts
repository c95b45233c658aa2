import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { Announcement } from '$lib/server/api/schemas';
import { notFound } from '$lib/server/booking/problem';
import { announce } from '$lib/server/catalogue/announced';
import { db } from '$lib/server/db/client';

/**
 * The numbers a supplier announces ahead for a purchase order, in place of those announced before.
 */
export const PUT: RequestHandler = ({ params, request }) =>
  answering(async () => {
    if (params.kind !== 'purchase') notFound('order', `${params.kind} ${params.number}`);
    return jsonResponse(await announce(db(), params.number, await readBody(request, Announcement)));
  });
