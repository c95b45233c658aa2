import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';

export const load: PageServerLoad = async () => ({ places: await listPlaces(db()) });
