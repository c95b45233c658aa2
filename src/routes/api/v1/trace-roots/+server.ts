import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { TraceStart } from '$lib/server/trace/schemas.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { findRoots, keepSet } from '$lib/server/trace/trace-roots.ts';

/**
 * What a starting point means; kept as a set to be traced together, so that its address means the
 * same for ever.
 */
export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const { ids, ...found } = await findRoots(db(), await readBody(request, TraceStart));
    // Asked back first: a set is kept once every number means one thing.
    const set =
      ids.length > 1 && found.open.length === 0
        ? await keepSet(db(), locals.actor!, found.title, ids)
        : null;
    return jsonResponse({ ...found, first: ids[0] ?? null, set });
  });
