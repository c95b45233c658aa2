import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { idempotencyKey, readBody } from '$lib/server/http/read-body.ts';
import { NewRecall } from '$lib/server/recall/schemas.ts';
import { openRecall } from '$lib/server/recall/write-recall.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listRecalls } from '$lib/server/recall/list-recalls.ts';

export const GET: RequestHandler = () =>
  answering(async () => {
    const { rows, total } = await listRecalls(db());
    return jsonResponse({ recalls: rows, total });
  });

export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    return jsonResponse(
      await openRecall(db(), locals.actor!, key, await readBody(request, NewRecall)),
      201
    );
  });
