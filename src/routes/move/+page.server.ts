import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';
import { readLatelyMoved } from '$lib/server/stock/lately.ts';
import { readDraft } from '$lib/server/ledger/drafts.ts';

export const load: PageServerLoad = async ({ locals, url }) => {
  const { roles, personId } = locals.actor!;
  const [places, draft, lately] = await Promise.all([
    listPlaces(db()),
    readDraft(db(), personId, 'move'),
    readLatelyMoved(db())
  ]);
  /** The place somebody came here to empty. */
  const wanted = (url.searchParams.get('place') ?? '').toUpperCase();
  const takes = places.find(({ code }) => code.toUpperCase() === wanted)?.code ?? null;
  return { takes, places, draft, lately, mayBook: mayDo(roles, 'book.move') };
};
