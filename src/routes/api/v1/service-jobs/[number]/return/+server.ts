import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { idempotencyKey, readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { sendBack } from '$lib/server/service/send-back.ts';
import { ServiceReturn } from '$lib/server/service/schemas.ts';

/** The unit goes back, or another in its place; the job ends. */
export const POST: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    const given = await readBody(request, ServiceReturn);
    const { answer, fresh } = await sendBack(db(), locals.actor!, key, params.number, given);
    return jsonResponse(answer, fresh ? 201 : 200);
  });
