import type { PageServerLoad } from './$types';
import { readSchemes } from '$lib/server/catalogue/numbering';
import { db } from '$lib/server/db/client';

export const load: PageServerLoad = async ({ parent }) => ({
  schemes: await readSchemes(db(), (await parent()).today)
});
