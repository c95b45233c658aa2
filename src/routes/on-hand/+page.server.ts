import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { readNames } from '$lib/server/catalogue/read-catalogue.ts';
import { readOnHand } from '$lib/server/stock/on-hand.ts';

const MOST = 3000;

export const load: PageServerLoad = async ({ url }) => {
  const q = (url.searchParams.get('q') ?? '').slice(0, 100);
  const [rows, names] = await Promise.all([
    readOnHand(db(), { text: q || undefined, limit: MOST }),
    readNames(db())
  ]);
  return { rows, q, names: names.products, cut: rows.length === MOST };
};
