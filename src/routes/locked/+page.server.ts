import { redirect } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { ownPath } from '$lib/server/http/own-path.ts';

/** What a locked device shows when it is loaded anew; before that, the lock lies over the sheet. */
export const load: PageServerLoad = ({ locals, url }) => {
  const to = ownPath(url, url.searchParams.get('to'));
  if (locals.actor?.wait !== 'unlocking') redirect(303, to);
  return { withoutFrame: true, name: locals.actor.name, to };
};
