import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { readSchemes } from '$lib/server/catalogue/numbering.ts';
import { readPlans } from '$lib/server/catalogue/plans.ts';
import { readProduct } from '$lib/server/catalogue/products.ts';
import { listSites } from '$lib/server/catalogue/read-catalogue.ts';
import { readProductUses } from '$lib/server/catalogue/product-uses.ts';
import { readWhatItTakes } from '$lib/server/catalogue/what-it-takes.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';

export const load: PageServerLoad = async ({ params, url, parent }) => {
  if (params.code === 'new') return { page: null };
  const { today } = await parent();
  const product = await readProduct(db(), params.code);
  if (!product) error(404, `There is no product ${params.code}.`);
  const [plans, schemes, sites, uses] = await Promise.all([
    readPlans(db()),
    readSchemes(db(), today),
    listSites(db()),
    readProductUses(db(), product.code)
  ]);
  const asked = url.searchParams.get('quantity');
  const page = {
    product,
    tag: tagOf(product),
    plans: plans.map(({ code, name, plan }) => ({ code, name, identity: plan.identity })),
    schemes,
    site: sites[0]?.code ?? 'SITE',
    uses,
    tree:
      product.components.length > 0
        ? await readWhatItTakes(db(), product.code, asked, today)
        : null,
    kept: url.searchParams.has('kept')
  };
  return { page };
};
