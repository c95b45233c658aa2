import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { idempotencyKey, readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { approveCount } from '$lib/server/stock/counts/approve-count.ts';
import { CountApproval } from '$lib/server/stock/counts/schemas.ts';

export const POST: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    const given = await readBody(request, CountApproval);
    const { document } = params;
    const { answer, fresh } = await approveCount(db(), locals.actor!, key, document, given);
    return jsonResponse(answer, fresh ? 201 : 200);
  });
