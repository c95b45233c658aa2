import { fail, redirect } from '@sveltejs/kit';
import type { Actions, PageServerLoad } from './$types';
import { readAccessSettings } from '$lib/server/people/account/access-settings.ts';
import { takeSaid } from '$lib/server/people/elsewhere/browser-state.ts';
import { signIn } from '$lib/server/people/sign-in.ts';
import { sayWait } from '$lib/server/people/attempts.ts';
import { MOST_SIGN_IN_BYTES } from '$lib/server/people/schemas.ts';
import { setSessionCookie } from '$lib/server/people/session-cookie.ts';
import { readText } from '$lib/server/http/read-json.ts';
import { ownPath } from '$lib/server/http/own-path.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const load: PageServerLoad = async ({ locals, url, cookies }) => {
  const to = ownPath(url, url.searchParams.get('to'));
  if (locals.actor) redirect(303, to);
  const { onlyLocal } = await readAccessSettings(db());
  return { to, said: takeSaid(cookies) ?? '', isPasswordForOne: onlyLocal !== null };
};

export const actions: Actions = {
  default: async ({ request, cookies, url, getClientAddress }) => {
    const form = new URLSearchParams(await readText(request, MOST_SIGN_IN_BYTES).catch(() => ''));
    const login = String(form.get('login') ?? '').slice(0, 200);
    const result = await signIn(
      db(),
      login,
      String(form.get('password') ?? ''),
      getClientAddress(),
      request.headers.get('user-agent') ?? ''
    );
    if (!result.ok) {
      return fail(result.why === 'wrong' ? 401 : 429, {
        login,
        message:
          result.why === 'wrong'
            ? 'Name and password do not match. Check both and try again.'
            : `Too many attempts. Try again ${sayWait(result.wait)}.`
      });
    }
    setSessionCookie(cookies, result.secret, result.expires, url.protocol === 'https:');
    redirect(303, ownPath(url, url.searchParams.get('to')));
  }
};
