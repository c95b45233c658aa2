import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { db } from '$lib/server/db/client';
import { loadIdentify } from '$lib/server/reading/identify-sheet';

export const load: PageServerLoad = async ({ url, locals }) => {
  const sheet = await loadIdentify(db(), url.searchParams.get('product') ?? '', locals.actor!);
  if (!sheet) error(404, 'Nothing of that product waits for a number.');
  return { ...sheet, mayBook: mayDo(locals.actor!.roles, 'book.identify') };
};
