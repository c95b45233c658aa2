import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { cancelCount } from '$lib/server/stock/counts/approve-count.ts';
import { readCount } from '$lib/server/stock/counts/read-count.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => jsonResponse(await readCount(db(), params.document)));

/** Ends a count without booking anything. */
export const DELETE: RequestHandler = ({ params, locals }) =>
  answering(async () => {
    await cancelCount(db(), locals.actor!, params.document);
    return jsonResponse(await readCount(db(), params.document));
  });
