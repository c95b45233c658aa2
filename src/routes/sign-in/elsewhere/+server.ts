import { redirect } from '@sveltejs/kit';
import type { RequestHandler } from './$types';
import { ownPath } from '$lib/server/http/own-path.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { mayBegin } from '$lib/server/people/elsewhere/begin-limit.ts';
import { keepState, say } from '$lib/server/people/elsewhere/browser-state.ts';
import { beginElsewhere, type Begun } from '$lib/server/people/elsewhere/provider.ts';
import { ourElsewhere } from '$lib/server/people/elsewhere/settings.ts';

/** Where a provider sends people back to. */
const BACK = '/sign-in/back';

/** Off to the identity provider; it comes back to /sign-in/back. */
export const GET: RequestHandler = async ({ url, cookies, getClientAddress }) => {
  const secure = url.protocol === 'https:';
  const to = ownPath(url, url.searchParams.get('to'));
  const sorry = (why: string): never => {
    say(cookies, why, secure);
    redirect(303, `/sign-in?to=${encodeURIComponent(to)}`);
  };
  const settings = ourElsewhere() ?? sorry('No other sign-in is set up here.');
  if (!(await mayBegin(getClientAddress()))) sorry('Too many sign-ins. Try again in 15 minutes.');
  const begun = await beginElsewhere(db(), settings, `${url.origin}${BACK}`, to).catch(
    (error: unknown): Begun => {
      console.error('The identity provider could not be asked.', error);
      return sorry(`${settings.name} cannot be reached. Try again in a moment.`);
    }
  );
  keepState(cookies, begun.state, secure);
  redirect(303, begun.address);
};
