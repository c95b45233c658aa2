import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readTransfer } from '$lib/server/stock/transfers/read-transfers.ts';
import { readTransferHead } from '$lib/server/stock/transfers/transfer-head.ts';

export const load: PageServerLoad = async ({ params, locals }) => {
  const { roles } = locals.actor!;
  const head = await readTransferHead(db(), params.document);
  const [whole, places] = await Promise.all([readTransfer(db(), head), listPlaces(db())]);
  return {
    head,
    ...whole,
    places: places.filter((place) => place.site === head.to),
    mayBook: mayDo(roles, 'book.move'),
    mayWriteOff: mayDo(roles, 'book.correct')
  };
};
