import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { readCustomerWishes } from '$lib/server/catalogue/wishes.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';
import { readPartnerPage } from '$lib/server/shipping/partner-page.ts';

export const load: PageServerLoad = async ({ params, locals }) => {
  const page = await readPartnerPage(db(), params.code);
  if (!page) error(404, `There is no partner ${params.code}. Check the code.`);
  const wishes = await readCustomerWishes(db(), page.partner.code);
  return {
    ...page,
    tag: tagOf(page.partner),
    wishes,
    wishesTag: tagOf(wishes),
    mayEdit: mayDo(locals.actor!.roles, 'edit.catalogue')
  };
};
