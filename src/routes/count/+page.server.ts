import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listCounts, readExactness } from '$lib/server/stock/counts/list-counts.ts';

export const load: PageServerLoad = async ({ locals, url }) => {
  const asked = (url.searchParams.get('place') ?? '').toUpperCase();
  const [counts, places, known] = await Promise.all([
    listCounts(db()),
    readExactness(db()),
    asked === '' ? [] : listPlaces(db())
  ]);
  /** The place somebody came here to count. */
  const wanted = known.find(({ code }) => code.toUpperCase() === asked)?.code ?? null;
  return { counts, places, wanted, mayCount: mayDo(locals.actor!.roles, 'count') };
};
