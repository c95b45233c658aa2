import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { checkInstant, idempotencyKey, readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { exchange } from '$lib/server/shipping/exchange.ts';
import { Exchange } from '$lib/server/shipping/schemas.ts';

/** Shipped units come back and others go out in their place. */
export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    const given = await readBody(request, Exchange);
    checkInstant(given.at);
    const { exchanged, fresh } = await exchange(db(), locals.actor!, key, given);
    return jsonResponse(exchanged, fresh ? 201 : 200);
  });
