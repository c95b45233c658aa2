import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { checkInstant, idempotencyKey, readBody } from '$lib/server/http/read-body.ts';
import { QualityTest } from '$lib/server/quality/schemas.ts';
import { recordTest } from '$lib/server/quality/test-mark.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    const given = await readBody(request, QualityTest);
    checkInstant(given.takenAt);
    const { fresh, ...test } = await recordTest(db(), locals.actor!, key, given, new Date());
    return jsonResponse(test, fresh ? 201 : 200);
  });
