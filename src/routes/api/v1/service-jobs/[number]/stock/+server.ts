import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { idempotencyKey, readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { ServiceStock } from '$lib/server/service/schemas.ts';
import { takeToStock } from '$lib/server/service/take-to-stock.ts';

/** The unit stays, reconditioned, under its number or a new one; the job ends. */
export const POST: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    const given = await readBody(request, ServiceStock);
    return jsonResponse(await takeToStock(db(), locals.actor!, key, params.number, given));
  });
