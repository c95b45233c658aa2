import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { idempotencyKey, readBody } from '$lib/server/api/read-body';
import { NewRecall } from '$lib/server/api/schemas';
import { openRecall } from '$lib/server/catalogue/recalls';
import { db } from '$lib/server/db/client';
import { listRecalls } from '$lib/server/reading/recall';

export const GET: RequestHandler = () =>
  answering(async () => jsonResponse({ recalls: await listRecalls(db()) }));

export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    return jsonResponse(
      await openRecall(db(), locals.actor!, key, await readBody(request, NewRecall)),
      201
    );
  });
