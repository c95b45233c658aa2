import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { checkInstant, idempotencyKey, readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { arrive } from '$lib/server/stock/transfers/book-transfer.ts';
import { Arrival } from '$lib/server/stock/transfers/schemas.ts';

/** Goods of a transfer arrive. */
export const POST: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    const given = await readBody(request, Arrival);
    checkInstant(given.at);
    const { answer, fresh } = await arrive(db(), locals.actor!, key, params.document, given);
    return jsonResponse(answer, fresh ? 201 : 200);
  });
