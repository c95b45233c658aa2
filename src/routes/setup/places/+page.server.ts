import type { PageServerLoad } from './$types';
import { pageAsked } from '$lib/server/http/page-asked.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listSites, pageOfPlaces } from '$lib/server/catalogue/read-catalogue.ts';

export const load: PageServerLoad = async ({ url }) => {
  const asked = pageAsked(url);
  const [page, sites] = await Promise.all([pageOfPlaces(db(), asked), listSites(db())]);
  return { ...asked, ...page, sites };
};
