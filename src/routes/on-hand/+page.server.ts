import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { readNames } from '$lib/server/catalogue/read-catalogue.ts';
import { countUnderWay, readOnHand, readOnHandProducts } from '$lib/server/stock/on-hand.ts';

/** Most rows of a product that the screen lists; its figures are of everything. */
const MOST = 500;

export const load: PageServerLoad = async ({ url }) => {
  const q = (url.searchParams.get('q') ?? '').slice(0, 100);
  const asked = { text: q || undefined };
  const [products, rows, names, underWay] = await Promise.all([
    readOnHandProducts(db(), asked),
    readOnHand(db(), { ...asked, most: MOST }),
    readNames(db()),
    countUnderWay(db())
  ]);
  return { products, rows, underWay, q, names: names.products };
};
