import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { selfOf } from '$lib/server/people/account/self.ts';
import { revokeToken } from '$lib/server/people/tokens.ts';

export const DELETE: RequestHandler = ({ url, locals }) =>
  answering(async () => {
    await revokeToken(db(), selfOf(locals).login, Number(url.searchParams.get('id')) || 0);
    return new Response(null, { status: 204 });
  });
