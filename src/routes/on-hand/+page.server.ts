import type { PageServerLoad } from './$types';
import { db } from '$lib/server/db/client';
import { listProducts } from '$lib/server/reading/catalogue';
import { readOnHand } from '$lib/server/reading/on-hand';

const MOST = 3000;

export const load: PageServerLoad = async ({ url }) => {
  const q = (url.searchParams.get('q') ?? '').slice(0, 100);
  const [rows, products] = await Promise.all([readOnHand(db(), { text: q || undefined, limit: MOST }), listProducts(db())]);
  return { rows, q, names: Object.fromEntries(products.map((product) => [product.code, { name: product.name, unit: product.unit, marking: product.marking }])), cut: rows.length === MOST };
};
