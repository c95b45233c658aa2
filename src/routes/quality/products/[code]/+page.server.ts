import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { readSpecs } from '$lib/server/catalogue/specs';
import { db } from '$lib/server/db/client';
import { listPartners } from '$lib/server/reading/catalogue';
import { readTestsOf } from '$lib/server/reading/quality';

export const load: PageServerLoad = async ({ params, url, locals }) => {
  const [product] = await db()<
    { code: string; name: string }[]
  >`SELECT code, name FROM product WHERE upper(code) = upper(${params.code})`;
  if (!product) error(404, `There is no product ${params.code}.`);
  const [specs, tests, partners] = await Promise.all([
    readSpecs(db(), [product.code]),
    readTestsOf(db(), product.code),
    listPartners(db())
  ]);
  return {
    product,
    specs,
    tests,
    partner: url.searchParams.get('partner') ?? '',
    customers: partners
      .filter((partner) => partner.customer)
      .map(({ code, name }) => ({ code, name })),
    mayEdit: mayDo(locals.actor!.roles, 'edit.spec')
  };
};
