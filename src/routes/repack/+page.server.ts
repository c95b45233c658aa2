import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';
import { readRepackProducts, readRepackSources } from '$lib/server/making/repack-screen.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

export const load: PageServerLoad = async ({ url, locals }) => {
  const ids = (url.searchParams.get('marks') ?? '')
    .split(',')
    .flatMap((text) => rowId(text) ?? [])
    .slice(0, 50);
  const seesCosts = mayDo(locals.actor!.roles, 'see.costs');
  const [sources, products, places] = await Promise.all([
    readRepackSources(db(), ids, seesCosts),
    readRepackProducts(db()),
    listPlaces(db())
  ]);
  const mayRepack = mayDo(locals.actor!.roles, 'book.repack');
  return { sources, products, places, mayRepack, seesCosts };
};
