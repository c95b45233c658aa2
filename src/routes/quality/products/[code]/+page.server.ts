import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { readSpecs } from '$lib/server/catalogue/specs.ts';
import { seenOfSpec } from '$lib/server/catalogue/seen-versions.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { findProduct, listPartners } from '$lib/server/catalogue/read-catalogue.ts';
import { readTestsOf } from '$lib/server/quality/read-quality.ts';

export const load: PageServerLoad = async ({ params, url, locals }) => {
  const product = await findProduct(db(), params.code);
  if (!product) error(404, `There is no product ${params.code}.`);
  const partner = url.searchParams.get('partner') ?? '';
  // What was seen is read first: a version kept between the two is one that was not seen.
  const seen = await seenOfSpec(db(), product.code, partner || null);
  const [specs, tests, partners] = await Promise.all([
    readSpecs(db(), [product.code]),
    readTestsOf(db(), product.code),
    listPartners(db())
  ]);
  return {
    product,
    specs,
    tests,
    partner,
    tag: seen && tagOf(seen),
    customers: partners
      .filter((partner) => partner.customer)
      .map(({ code, name }) => ({ code, name })),
    mayEdit: mayDo(locals.actor!.roles, 'edit.spec')
  };
};
