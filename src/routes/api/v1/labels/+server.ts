import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { LabelRequest } from '$lib/server/api/schemas';
import { db } from '$lib/server/db/client';
import { listLabelJobs, printLabels } from '$lib/server/documents/label-jobs';

export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () =>
    jsonResponse(await printLabels(db(), locals.actor!, await readBody(request, LabelRequest)), 201)
  );

/** The spool: the latest jobs. */
export const GET: RequestHandler = () =>
  answering(async () => jsonResponse({ jobs: await listLabelJobs(db()) }));
