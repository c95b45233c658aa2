import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { CommonSourceQuestion } from '$lib/server/trace/schemas.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readCommonSources } from '$lib/server/trace/common-source.ts';

/**
 * What troubled units share upstream, ranked by how surprising the sharing is; nothing is written.
 */
export const POST: RequestHandler = ({ request }) =>
  answering(async () => {
    const { units, population } = await readBody(request, CommonSourceQuestion);
    return jsonResponse(await readCommonSources(db(), units, population));
  });
