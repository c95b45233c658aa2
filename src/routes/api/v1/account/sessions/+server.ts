import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { endSessions } from '$lib/server/people/account/read-account.ts';
import { selfOf } from '$lib/server/people/account/self.ts';

/** Ends a session of one's own; without an id all but this one. */
export const DELETE: RequestHandler = ({ url, locals }) =>
  answering(async () => {
    const id = Number(url.searchParams.get('id'));
    await endSessions(db(), selfOf(locals), id || 'others');
    return new Response(null, { status: 204 });
  });
