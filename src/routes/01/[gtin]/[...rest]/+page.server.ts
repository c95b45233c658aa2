import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { readPublicUnit } from '$lib/server/service/public-pages.ts';
import { lookedUp } from '$lib/server/service/looked-up.ts';

/** Nothing of it needs a script. */
export const csr = false;

export const load: PageServerLoad = async ({ params, getClientAddress }) => ({
  withoutFrame: true,
  unit: await lookedUp(getClientAddress(), () => readPublicUnit(db(), params.gtin, params.rest))
});
