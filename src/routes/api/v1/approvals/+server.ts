import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { approve } from '$lib/server/people/approvals.ts';
import { NewApproval } from '$lib/server/people/schemas.ts';

/** A second person approves, with their password, what the one who asks is about to book. */
export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () =>
    jsonResponse(await approve(db(), locals.actor!, await readBody(request, NewApproval)), 201)
  );
