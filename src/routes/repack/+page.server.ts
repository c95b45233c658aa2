import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { db } from '$lib/server/db/client';
import { listPlaces } from '$lib/server/reading/catalogue';
import { readRepackProducts, readRepackSources } from '$lib/server/reading/repack-screen';
import { rowId } from '$lib/server/row-id';

export const load: PageServerLoad = async ({ url, locals }) => {
  const ids = (url.searchParams.get('marks') ?? '')
    .split(',')
    .flatMap((text) => rowId(text) ?? [])
    .slice(0, 50);
  const [sources, products, places] = await Promise.all([
    readRepackSources(db(), ids),
    readRepackProducts(db()),
    listPlaces(db())
  ]);
  return { sources, products, places, mayRepack: mayDo(locals.actor!.roles, 'book.repack') };
};
