import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { NewToken } from '$lib/server/people/schemas.ts';
import { makeToken, revokeToken } from '$lib/server/people/tokens.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const POST: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const given = await readBody(request, NewToken);
    return jsonResponse(await makeToken(db(), locals.actor, params.login, given), 201);
  });

export const DELETE: RequestHandler = ({ params, url }) =>
  answering(async () => {
    await revokeToken(db(), params.login, Number(url.searchParams.get('id')) || 0);
    return new Response(null, { status: 204 });
  });
