import type { PageServerLoad } from './$types';
import { db } from '$lib/server/db/client';
import { readNames } from '$lib/server/reading/catalogue';
import { readOnHand } from '$lib/server/reading/on-hand';

const MOST = 3000;

export const load: PageServerLoad = async ({ url }) => {
  const q = (url.searchParams.get('q') ?? '').slice(0, 100);
  const [rows, names] = await Promise.all([
    readOnHand(db(), { text: q || undefined, limit: MOST }),
    readNames(db())
  ]);
  return { rows, q, names: names.products, cut: rows.length === MOST };
};
