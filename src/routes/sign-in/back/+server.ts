import { redirect } from '@sveltejs/kit';
import type { RequestHandler } from './$types';
import { ownPath } from '$lib/server/http/own-path.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { say, takeState } from '$lib/server/people/elsewhere/browser-state.ts';
import { comeIn } from '$lib/server/people/elsewhere/come-in.ts';
import { endElsewhere, type Ended } from '$lib/server/people/elsewhere/provider.ts';
import { ourElsewhere } from '$lib/server/people/elsewhere/settings.ts';
import { SESSION_COOKIE, setSessionCookie } from '$lib/server/people/session-cookie.ts';
import { signOut } from '$lib/server/people/sign-in.ts';

/** Back from the identity provider: whoever signed in there is signed in here. */
export const GET: RequestHandler = async ({ url, cookies, request, getClientAddress }) => {
  const secure = url.protocol === 'https:';
  const sorry = (why: string): never => {
    say(cookies, why, secure);
    redirect(303, '/sign-in');
  };
  const state = takeState(cookies);
  const settings = ourElsewhere() ?? sorry('No other sign-in is set up here.');
  const ended = await endElsewhere(db(), settings, url, state ?? '').catch(
    (error: unknown): Ended | null => {
      console.error('A sign-in elsewhere did not hold.', error);
      return sorry(`${settings.name} did not sign you in. Begin again.`);
    }
  );
  if (!ended) return sorry('This sign-in was begun elsewhere or too long ago. Begin again.');
  const agent = request.headers.get('user-agent') ?? '';
  const came = await comeIn(db(), settings, ended, { address: getClientAddress(), agent });
  if (!came.ok)
    return sorry(`${settings.name} knows you, and Earmark lets you in no further: ${came.why}`);
  const before = cookies.get(SESSION_COOKIE);
  if (before) await signOut(db(), before);
  setSessionCookie(cookies, came.secret, came.expires, secure);
  redirect(303, ownPath(url, ended.to));
};
