import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';
import { readDraft } from '$lib/server/ledger/drafts.ts';
import { readPutAway } from '$lib/server/stock/put-away.ts';

export const load: PageServerLoad = async ({ url, locals }) => {
  const event = rowId(url.searchParams.get('event'));
  const sheet = event === null ? 'put-away' : `put-away ${event}`;
  const { roles, personId } = locals.actor!;
  const [waiting, places, draft] = await Promise.all([
    readPutAway(db(), event),
    listPlaces(db()),
    readDraft(db(), personId, sheet)
  ]);
  return {
    waiting,
    places: places.filter((place) => place.kind !== 'dock'),
    event,
    sheet,
    draft,
    mayBook: mayDo(roles, 'book.move')
  };
};
