import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';
import { readReturns } from '$lib/server/shipping/returns.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';
import { readMarkRecords } from '$lib/server/ledger/mark-record.ts';

export const load: PageServerLoad = async ({ url, locals }) => {
  const id = rowId(url.searchParams.get('mark'));
  const [mark] = id === null ? [] : await readMarkRecords(db(), [id]);
  return {
    places: await listPlaces(db()),
    returns: await readReturns(db()),
    first: mark ?? null,
    mayReturn: mayDo(locals.actor!.roles, 'book.return'),
    mayShip: mayDo(locals.actor!.roles, 'book.ship'),
    mayDecide: mayDo(locals.actor!.roles, 'decide.quality')
  };
};
