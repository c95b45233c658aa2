import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { readExplosion, type ExplosionAnswer } from '$lib/server/catalogue/explosion.ts';
import { readSchemes } from '$lib/server/catalogue/numbering.ts';
import { readPlans } from '$lib/server/catalogue/plans.ts';
import { readProduct } from '$lib/server/catalogue/products.ts';
import { listSites } from '$lib/server/catalogue/read-catalogue.ts';
import { readProductUses, stillToMake } from '$lib/server/catalogue/product-uses.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';
import { Problem } from '$lib/server/kernel/problem.ts';

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
  const page = {
    product,
    tag: tagOf(product),
    plans: plans.map(({ code, name, plan }) => ({ code, name, identity: plan.identity })),
    schemes,
    site: sites[0]?.code ?? 'SITE',
    uses,
    tree: product.components.length > 0 ? await readTree(product.code, today, url) : null,
    kept: url.searchParams.has('kept')
  };
  return { page };
};

/** What its bill takes through all levels: for as many as are asked, or still to be made, or one. */
async function readTree(
  code: string,
  today: string,
  url: URL
): Promise<{
  wanted: string;
  open: string | null;
  explosion: ExplosionAnswer | null;
  why: string;
}> {
  const open = await stillToMake(db(), code);
  const wanted = url.searchParams.get('quantity')?.trim() || open || '1';
  try {
    return { wanted, open, explosion: await readExplosion(db(), code, wanted, today), why: '' };
  } catch (problem) {
    if (!(problem instanceof Problem)) throw problem;
    const why = problem.errors[0]?.message ?? problem.title;
    return { wanted, open, explosion: null, why };
  }
}
