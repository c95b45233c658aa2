import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Announcement } from '$lib/server/orders/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { announce } from '$lib/server/orders/announced.ts';
import { db } from '$lib/server/kernel/db/client.ts';

/**
 * The numbers a supplier announces ahead for a purchase order, in place of those announced before.
 */
export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    if (params.kind !== 'purchase') notFound('order', `${params.kind} ${params.number}`);
    const given = await readBody(request, Announcement);
    return jsonResponse(await announce(db(), locals.actor!, params.number, given));
  });
