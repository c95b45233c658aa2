import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { LabelRequest } from '$lib/server/stock/schemas.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listLabelJobs, printLabels } from '$lib/server/stock/label-jobs.ts';

export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () =>
    jsonResponse(await printLabels(db(), locals.actor!, await readBody(request, LabelRequest)), 201)
  );

/** The spool: the latest jobs. */
export const GET: RequestHandler = () =>
  answering(async () => jsonResponse({ jobs: await listLabelJobs(db()) }));
