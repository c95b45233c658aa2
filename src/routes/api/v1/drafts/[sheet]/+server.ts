import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { Draft } from '$lib/server/api/schemas';
import { dropDraft, keepDraft, readDraft } from '$lib/server/drafts';
import { db } from '$lib/server/db/client';

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
