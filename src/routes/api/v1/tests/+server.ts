import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { checkInstant, idempotencyKey, readBody } from '$lib/server/api/read-body';
import { QualityTest } from '$lib/server/api/schemas';
import { recordTest } from '$lib/server/booking/test-mark';
import { db } from '$lib/server/db/client';

export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    const given = await readBody(request, QualityTest);
    checkInstant(given.takenAt);
    const { fresh, ...test } = await recordTest(db(), locals.actor!, key, given, new Date());
    return jsonResponse(test, fresh ? 201 : 200);
  });
