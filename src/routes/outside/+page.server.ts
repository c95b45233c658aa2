import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { readToldElsewhere } from '$lib/server/exchange/told-elsewhere.ts';
import { db } from '$lib/server/kernel/db/client.ts';

/** What other firms told of goods, by their identifier. */
export const load: PageServerLoad = async ({ url }) => {
  const epc = (url.searchParams.get('epc') ?? '').slice(0, 400);
  if (epc === '') error(404, 'Say which goods: scan or type their number above.');
  return { epc, told: await readToldElsewhere(db(), epc) };
};
