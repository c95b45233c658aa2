import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Draft } from '$lib/server/ledger/schemas.ts';
import { dropDraft, keepDraft, readDraft } from '$lib/server/ledger/drafts.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const GET: RequestHandler = ({ params, locals }) =>
  answering(async () => jsonResponse(await readDraft(db(), locals.actor!.personId, params.sheet)));

export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const { body, numbers } = await readBody(request, Draft);
    return jsonResponse(await keepDraft(db(), locals.actor!.personId, params.sheet, body, numbers));
  });

export const DELETE: RequestHandler = ({ params, locals }) =>
  answering(async () => {
    await dropDraft(db(), locals.actor!.personId, params.sheet);
    return new Response(null, { status: 204 });
  });
