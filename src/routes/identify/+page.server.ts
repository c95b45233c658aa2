import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { db } from '$lib/server/db/client';
import { loadIdentify } from '$lib/server/reading/identify-sheet';

/** The sheet of what waits for a number of one product; null once nothing does. */
export const load: PageServerLoad = async ({ url, locals }) => {
  const product = url.searchParams.get('product') ?? '';
  return {
    product,
    sheet: await loadIdentify(db(), product, locals.actor!),
    mayBook: mayDo(locals.actor!.roles, 'book.identify')
  };
};
