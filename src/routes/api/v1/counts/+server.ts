import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listCounts } from '$lib/server/stock/counts/list-counts.ts';
import { openCount } from '$lib/server/stock/counts/open-count.ts';
import { readCount } from '$lib/server/stock/counts/read-count.ts';
import { NewCount } from '$lib/server/stock/counts/schemas.ts';

export const GET: RequestHandler = () =>
  answering(async () => jsonResponse(await listCounts(db())));

/** Opens a count, and answers with what there is to count. */
export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const wanted = await readBody(request, NewCount);
    const { head, fresh } = await openCount(db(), locals.actor!, wanted);
    return jsonResponse(await readCount(db(), head.document), fresh ? 201 : 200);
  });
