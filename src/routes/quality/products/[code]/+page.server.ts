import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { readSpecs, specOf } from '$lib/server/catalogue/specs.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { findProduct, listPartners } from '$lib/server/catalogue/read-catalogue.ts';
import { readTestsOf } from '$lib/server/quality/read-quality.ts';

export const load: PageServerLoad = async ({ params, url, locals }) => {
  const product = await findProduct(db(), params.code);
  if (!product) error(404, `There is no product ${params.code}.`);
  const partner = url.searchParams.get('partner') ?? '';
  const [specs, tests, partners] = await Promise.all([
    readSpecs(db(), [product.code]),
    readTestsOf(db(), product.code),
    listPartners(db())
  ]);
  const spec = specOf(specs, product.code, partner || null);
  return {
    product,
    specs,
    tests,
    partner,
    tag: spec && tagOf(spec),
    customers: partners
      .filter((partner) => partner.customer)
      .map(({ code, name }) => ({ code, name })),
    mayEdit: mayDo(locals.actor!.roles, 'edit.spec')
  };
};
