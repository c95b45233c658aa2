import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { idempotencyKey, readBody } from '$lib/server/http/read-body.ts';
import { NumbersWanted } from '$lib/server/catalogue/schemas.ts';
import { allotNumbers } from '$lib/server/catalogue/numbering.ts';
import { db } from '$lib/server/kernel/db/client.ts';

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
