import { fail, redirect } from '@sveltejs/kit';
import type { Actions, PageServerLoad } from './$types';
import { signIn } from '$lib/server/people/sign-in.ts';
import { setSessionCookie } from '$lib/server/people/session-cookie.ts';
import { db } from '$lib/server/kernel/db/client.ts';

/** Only a path of our own is gone on to, never another host. */
const safePath = (to: string | null): string => (to && /^\/(?![/\\])/.test(to) ? to : '/');

export const load: PageServerLoad = ({ locals, url }) => {
  if (locals.actor) redirect(303, safePath(url.searchParams.get('to')));
};

export const actions: Actions = {
  default: async ({ request, cookies, url, getClientAddress }) => {
    const form = await request.formData();
    const login = String(form.get('login') ?? '').slice(0, 200);
    const result = await signIn(
      db(),
      login,
      String(form.get('password') ?? ''),
      getClientAddress()
    );
    if (!result.ok) {
      return fail(result.why === 'wrong' ? 401 : 429, {
        login,
        message:
          result.why === 'wrong'
            ? 'Name and password do not match. Check both and try again.'
            : 'Too many attempts. Wait a quarter of an hour, or ask an administrator for a new password.'
      });
    }
    setSessionCookie(cookies, result.secret, result.expires, url.protocol === 'https:');
    redirect(303, safePath(url.searchParams.get('to')));
  }
};
