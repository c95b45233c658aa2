import { fail, redirect } from '@sveltejs/kit';
import type { Actions, PageServerLoad } from './$types';
import { ownPath } from '$lib/server/http/own-path.ts';
import { readText } from '$lib/server/http/read-json.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { Problem } from '$lib/server/kernel/problem.ts';
import { siteOf } from '$lib/server/people/account/passkeys.ts';
import { factorsOf, showFactor } from '$lib/server/people/account/second-factor.ts';
import { selfOf } from '$lib/server/people/account/self.ts';
import { MOST_SIGN_IN_BYTES } from '$lib/server/people/schemas.ts';
import { setSessionCookie } from '$lib/server/people/session-cookie.ts';

export const load: PageServerLoad = async ({ locals, url }) => {
  const self = selfOf(locals);
  const to = ownPath(url, url.searchParams.get('to'));
  if (self.wait !== 'second factor') redirect(303, to);
  return { withoutFrame: true, factors: await factorsOf(db(), self.personId), to };
};

export const actions: Actions = {
  /** The code, typed in a plain form. */
  default: async ({ request, locals, cookies, url, getClientAddress }) => {
    const form = new URLSearchParams(await readText(request, MOST_SIGN_IN_BYTES).catch(() => ''));
    const code = (form.get('code') ?? '').slice(0, 60);
    try {
      const renewed = await showFactor(db(), selfOf(locals), siteOf(url), getClientAddress(), {
        code
      });
      setSessionCookie(cookies, renewed.secret, renewed.expires, url.protocol === 'https:');
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      return fail(error.status, { message: error.errors[0]?.message ?? error.title });
    }
    redirect(303, ownPath(url, url.searchParams.get('to')));
  }
};
