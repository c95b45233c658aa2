import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { CommonSourceQuestion } from '$lib/server/api/schemas';
import { db } from '$lib/server/db/client';
import { readCommonSources } from '$lib/server/reading/common-source';

/**
 * What troubled units share upstream, ranked by how surprising the sharing is; nothing is written.
 */
export const POST: RequestHandler = ({ request }) =>
  answering(async () => {
    const { units, population } = await readBody(request, CommonSourceQuestion);
    return jsonResponse(await readCommonSources(db(), units, population));
  });
