import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listCounts, readExactness } from '$lib/server/stock/counts/list-counts.ts';

export const load: PageServerLoad = async ({ locals }) => {
  const [counts, places] = await Promise.all([listCounts(db()), readExactness(db())]);
  return { counts, places, mayCount: mayDo(locals.actor!.roles, 'count') };
};
