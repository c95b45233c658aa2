import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listTransfers } from '$lib/server/stock/transfers/read-transfers.ts';

export const load: PageServerLoad = async ({ locals }) => {
  const [transfers, places] = await Promise.all([listTransfers(db()), listPlaces(db())]);
  const sites = new Map(places.map(({ site, siteName }) => [site, siteName]));
  return {
    transfers,
    sites: [...sites].map(([code, name]) => ({ code, name })),
    mayBook: mayDo(locals.actor!.roles, 'book.move')
  };
};
