import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { db } from '$lib/server/db/client';
import { listPlaces } from '$lib/server/reading/catalogue';
import { rowId } from '$lib/server/row-id';
import { readPutAway } from '$lib/server/reading/put-away';

export const load: PageServerLoad = async ({ url, locals }) => {
  const event = rowId(url.searchParams.get('event'));
  const [waiting, places] = await Promise.all([readPutAway(db(), event), listPlaces(db())]);
  return {
    waiting,
    places: places.filter((place) => place.kind !== 'dock'),
    event,
    mayBook: mayDo(locals.actor!.roles, 'book.move')
  };
};
