import type { PageServerLoad } from './$types';
import { daysLater } from '$lib/core/calendar/day.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listPartners, searchProducts } from '$lib/server/catalogue/read-catalogue.ts';
import { nextOrderNumber } from '$lib/server/orders/next-order-number.ts';

const KINDS = ['purchase', 'work', 'sales'] as const;

export const load: PageServerLoad = async ({ url, parent }) => {
  const { today } = await parent();
  const kind = KINDS.find((one) => one === url.searchParams.get('kind')) ?? 'purchase';
  const partners = (await listPartners(db())).filter((partner) =>
    kind === 'purchase' ? partner.supplier : partner.customer
  );
  const products = (await searchProducts(db(), '')).filter(
    (product) => kind !== 'work' || product.made
  );
  return {
    kind,
    partners,
    products,
    number: await nextOrderNumber(db(), kind),
    due: daysLater(today, 7)
  };
};
