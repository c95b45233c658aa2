import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { db } from '$lib/server/db/client';
import { listPlaces } from '$lib/server/reading/catalogue';
import { readReturns } from '$lib/server/reading/returns';
import { rowId } from '$lib/server/row-id';
import { readMarkRecords } from '$lib/server/reading/mark-record';

export const load: PageServerLoad = async ({ url, locals }) => {
  const id = rowId(url.searchParams.get('mark'));
  const [mark] = id === null ? [] : await readMarkRecords(db(), [id]);
  return {
    places: await listPlaces(db()),
    returns: await readReturns(db()),
    first: mark ?? null,
    mayReturn: mayDo(locals.actor!.roles, 'book.return'),
    mayDecide: mayDo(locals.actor!.roles, 'decide.quality')
  };
};
