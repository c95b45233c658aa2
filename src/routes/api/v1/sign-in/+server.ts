import type { RequestHandler } from './$types';
import { signIn } from '$lib/server/people/sign-in.ts';
import { sayWait } from '$lib/server/people/attempts.ts';
import { setSessionCookie } from '$lib/server/people/session-cookie.ts';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { MOST_SIGN_IN_BYTES, SignIn } from '$lib/server/people/schemas.ts';
import { Problem } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';

/** Signs in again from a sheet whose session has run out, without leaving it. */
export const POST: RequestHandler = ({ request, cookies, url, getClientAddress }) =>
  answering(async () => {
    const { login, password } = await readBody(request, SignIn, MOST_SIGN_IN_BYTES);
    const result = await signIn(
      db(),
      login,
      password,
      getClientAddress(),
      request.headers.get('user-agent') ?? ''
    );
    if (!result.ok) {
      throw result.why === 'wrong'
        ? new Problem(401, 'Name and password do not match', [
            { code: 'right.missing', path: 'password', message: 'Check both and try again.' }
          ])
        : new Problem(429, 'Too many attempts', [
            {
              code: 'right.missing',
              path: 'password',
              message: `Try again ${sayWait(result.wait)}.`
            }
          ]);
    }
    setSessionCookie(cookies, result.secret, result.expires, url.protocol === 'https:');
    const { login: signedIn, name, wait } = result.actor;
    return jsonResponse({ login: signedIn, name, ...(wait ? { wait } : {}) });
  });
