import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { idempotencyKey, readBody } from '$lib/server/api/read-body';
import { NumbersWanted } from '$lib/server/api/schemas';
import { allotNumbers } from '$lib/server/catalogue/numbering';
import { db } from '$lib/server/db/client';

export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    const { numbers, fresh } = await allotNumbers(
      db(),
      locals.actor!,
      key,
      await readBody(request, NumbersWanted),
      new Date()
    );
    return jsonResponse({ numbers }, fresh ? 201 : 200);
  });
