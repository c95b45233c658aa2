import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { readSchemes } from '$lib/server/catalogue/numbering.ts';
import { readPlans } from '$lib/server/catalogue/plans.ts';
import { readProduct } from '$lib/server/catalogue/products.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { searchProducts } from '$lib/server/catalogue/read-catalogue.ts';

export const load: PageServerLoad = async ({ params, url, parent }) => {
  const isNew = params.code === 'new';
  const product = isNew ? null : await readProduct(db(), params.code);
  if (!product && !isNew) error(404, `There is no product ${params.code}.`);
  return {
    product,
    plans: (await readPlans(db())).map(({ code, name, plan }) => ({
      code,
      name,
      identity: plan.identity
    })),
    schemes: await readSchemes(db(), (await parent()).today),
    others: await searchProducts(db(), ''),
    kept: url.searchParams.has('kept')
  };
};
