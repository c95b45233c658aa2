import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { NewToken } from '$lib/server/api/schemas';
import { makeToken, revokeToken } from '$lib/server/catalogue/people';
import { db } from '$lib/server/db/client';

export const POST: RequestHandler = ({ params, request }) =>
  answering(async () => {
    const { name, roles } = await readBody(request, NewToken);
    return jsonResponse(await makeToken(db(), params.login, name, roles), 201);
  });

export const DELETE: RequestHandler = ({ params, url }) =>
  answering(async () => {
    await revokeToken(db(), params.login, Number(url.searchParams.get('id')) || 0);
    return new Response(null, { status: 204 });
  });
