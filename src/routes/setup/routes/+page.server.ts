import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { readRoutes } from '$lib/server/catalogue/routes.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { searchProducts } from '$lib/server/catalogue/read-catalogue.ts';

export const load: PageServerLoad = async ({ locals }) => ({
  routes: await readRoutes(db()),
  products: (await searchProducts(db(), '')).filter((product) => product.made),
  mayEdit: mayDo(locals.actor!.roles, 'edit.catalogue')
});
