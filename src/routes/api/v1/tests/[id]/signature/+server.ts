import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { notFound } from '$lib/server/booking/problem';
import { signTest } from '$lib/server/booking/test-mark';
import { db } from '$lib/server/db/client';
import { rowId } from '$lib/server/row-id';

/** Signed once and by a second person, so it needs no key. */
export const POST: RequestHandler = ({ params, locals }) =>
  answering(async () => {
    await signTest(db(), locals.actor!, rowId(params.id) ?? notFound('test', params.id));
    return jsonResponse({ id: Number(params.id), signedBy: locals.actor!.name }, 201);
  });
