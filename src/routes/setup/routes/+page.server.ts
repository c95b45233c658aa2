import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { readRoutes } from '$lib/server/catalogue/routes';
import { db } from '$lib/server/db/client';
import { searchProducts } from '$lib/server/reading/catalogue';

export const load: PageServerLoad = async ({ locals }) => ({
  routes: await readRoutes(db()),
  products: (await searchProducts(db(), '')).filter((product) => product.made),
  mayEdit: mayDo(locals.actor!.roles, 'edit.catalogue')
});
