import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { signTest } from '$lib/server/quality/test-mark.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

/** Signed once and by a second person, so it needs no key. */
export const POST: RequestHandler = ({ params, locals }) =>
  answering(async () => {
    await signTest(db(), locals.actor!, rowId(params.id) ?? notFound('test', params.id));
    return jsonResponse({ id: Number(params.id), signedBy: locals.actor!.name }, 201);
  });
