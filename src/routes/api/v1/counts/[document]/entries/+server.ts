import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { CountEntries } from '$lib/server/stock/counts/schemas.ts';
import { writeEntries } from '$lib/server/stock/counts/write-entries.ts';

export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const given = await readBody(request, CountEntries);
    return jsonResponse(await writeEntries(db(), locals.actor!, params.document, given));
  });
