import type { PageServerLoad } from './$types';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';
import { productsNamed } from '$lib/server/catalogue/find-choices.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readTransferOrder } from '$lib/server/stock/transfers/read-order.ts';
import { readTransferHead } from '$lib/server/stock/transfers/transfer-head.ts';

export const load: PageServerLoad = async ({ url }) => {
  const changed = url.searchParams.get('change');
  const [places, before] = await Promise.all([
    listPlaces(db()),
    changed === null ? null : beforeOf(changed)
  ]);
  const sites = new Map(places.map(({ site, siteName }) => [site, siteName]));
  return {
    sites: [...sites].map(([code, name]) => ({ code, name })),
    /** What the lines name already. */
    known: await productsNamed(
      db(),
      (before?.order?.lines ?? []).map((line) => line.product)
    ),
    before
  };
};

/** The order that is changed, as it stands. */
async function beforeOf(document: string) {
  const head = await readTransferHead(db(), document);
  const order = await readTransferOrder(db(), head);
  return { document: head.document, from: head.from, to: head.to, order };
}
