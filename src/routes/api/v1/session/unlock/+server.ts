import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { unlock } from '$lib/server/people/account/lock.ts';
import { selfOf } from '$lib/server/people/account/self.ts';
import { MOST_SIGN_IN_BYTES, Unlock } from '$lib/server/people/schemas.ts';
import { setSessionCookie } from '$lib/server/people/session-cookie.ts';

/** Somebody comes back to a locked device: by password, or by badge and PIN. */
export const POST: RequestHandler = ({ request, locals, cookies, url, getClientAddress }) =>
  answering(async () => {
    const given = await readBody(request, Unlock, MOST_SIGN_IN_BYTES);
    const back = await unlock(db(), selfOf(locals), given, getClientAddress());
    setSessionCookie(cookies, back.secret, back.expires, url.protocol === 'https:');
    return jsonResponse({ login: back.login, name: back.name });
  });
