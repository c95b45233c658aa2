import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { loadIdentify } from '$lib/server/stock/identify-sheet.ts';

/** The sheet of what waits for a number of one product; null once nothing does. */
export const load: PageServerLoad = async ({ url, locals }) => {
  const product = url.searchParams.get('product') ?? '';
  return {
    product,
    sheet: await loadIdentify(db(), product, locals.actor!),
    mayBook: mayDo(locals.actor!.roles, 'book.identify')
  };
};
