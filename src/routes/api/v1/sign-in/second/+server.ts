import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { siteOf } from '$lib/server/people/account/passkeys.ts';
import { showFactor } from '$lib/server/people/account/second-factor.ts';
import { selfOf } from '$lib/server/people/account/self.ts';
import { MOST_SIGN_IN_BYTES, SecondFactor } from '$lib/server/people/schemas.ts';
import { setSessionCookie } from '$lib/server/people/session-cookie.ts';

/** The second factor after the password. */
export const POST: RequestHandler = ({ request, locals, cookies, url, getClientAddress }) =>
  answering(async () => {
    const self = selfOf(locals);
    const given = await readBody(request, SecondFactor, MOST_SIGN_IN_BYTES);
    const { secret, expires } = await showFactor(
      db(),
      self,
      siteOf(url),
      getClientAddress(),
      given
    );
    setSessionCookie(cookies, secret, expires, url.protocol === 'https:');
    return jsonResponse({ login: self.login, name: self.name });
  });
