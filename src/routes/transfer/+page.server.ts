import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readTransferOrder } from '$lib/server/stock/transfers/read-order.ts';
import { listTransfers } from '$lib/server/stock/transfers/read-transfers.ts';
import { readTransferHead } from '$lib/server/stock/transfers/transfer-head.ts';

export const load: PageServerLoad = async ({ locals, url }) => {
  const ordered = url.searchParams.get('order');
  const [transfers, places, order] = await Promise.all([
    listTransfers(db()),
    listPlaces(db()),
    ordered === null ? null : orderOf(ordered)
  ]);
  const sites = new Map(places.map(({ site, siteName }) => [site, siteName]));
  return {
    transfers,
    order,
    sites: [...sites].map(([code, name]) => ({ code, name })),
    mayBook: mayDo(locals.actor!.roles, 'book.move')
  };
};

/** What is to be sent of an order; nothing where it was sent without one. */
async function orderOf(document: string) {
  const head = await readTransferHead(db(), document);
  const order = await readTransferOrder(db(), head);
  const { from, fromName, to, toName } = head;
  return order && { document: head.document, from, fromName, to, toName, ...order };
}
