import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { listPartners } from '$lib/server/catalogue/read-catalogue.ts';

export const load: PageServerLoad = async ({ url }) => ({
  partners: await listPartners(db()),
  q: (url.searchParams.get('q') ?? '').slice(0, 100)
});
