import type { PageServerLoad } from './$types';
import { pageAsked } from '$lib/server/http/page-asked.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { pageOfPartners } from '$lib/server/catalogue/read-catalogue.ts';

export const load: PageServerLoad = async ({ url }) => {
  const asked = pageAsked(url);
  return { ...asked, ...(await pageOfPartners(db(), asked)) };
};
