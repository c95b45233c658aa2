import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { readPlace } from '$lib/server/catalogue/partners-places.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listCounts, readExactness } from '$lib/server/stock/counts/list-counts.ts';

export const load: PageServerLoad = async ({ locals, url }) => {
  const asked = url.searchParams.get('place') ?? '';
  const [counts, places, named] = await Promise.all([
    listCounts(db()),
    readExactness(db()),
    asked === '' ? null : readPlace(db(), asked)
  ]);
  /** The place somebody came here to count. */
  const wanted = named?.kind === 'transit' ? null : (named?.code ?? null);
  return { counts, places, wanted, mayCount: mayDo(locals.actor!.roles, 'count') };
};
