import type { PageServerLoad } from './$types';
import { readSchemes } from '$lib/server/catalogue/numbering.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const load: PageServerLoad = async ({ parent }) => ({
  schemes: await readSchemes(db(), (await parent()).today)
});
