import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { readPartnerPage } from '$lib/server/shipping/partner-page.ts';

export const load: PageServerLoad = async ({ params }) => {
  const page = await readPartnerPage(db(), params.code);
  if (!page) error(404, `There is no partner ${params.code}. Check the code.`);
  return page;
};
