import type { PageServerLoad } from './$types';
import { db } from '$lib/server/db/client';
import { listPartners } from '$lib/server/reading/catalogue';

export const load: PageServerLoad = async ({ url }) => ({
  partners: await listPartners(db()),
  q: (url.searchParams.get('q') ?? '').slice(0, 100)
});
