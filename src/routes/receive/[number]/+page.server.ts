import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { company } from '$lib/server/catalogue/company.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readOrderPrices } from '$lib/server/orders/order-prices.ts';
import { loadSheet } from '$lib/server/orders/working-screen.ts';

export const load: PageServerLoad = async ({ params, locals }) => {
  const [sheet, { currency }, prices] = await Promise.all([
    loadSheet('purchase', params.number, locals.actor!),
    company(db()),
    readOrderPrices(db(), params.number)
  ]);
  const costs = mayDo(locals.actor!.roles, 'see.costs') ? { currency, prices } : null;
  return { ...sheet, costs };
};
