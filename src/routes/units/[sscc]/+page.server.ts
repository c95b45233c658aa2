import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { readUnitPage } from '$lib/server/shipping/units.ts';

export const load: PageServerLoad = async ({ params }) => ({
  unit:
    (await readUnitPage(db(), params.sscc)) ??
    error(404, 'There is no carton or pallet of that number. Scan its label again.')
});
