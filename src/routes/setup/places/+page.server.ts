import type { PageServerLoad } from './$types';
import { db } from '$lib/server/db/client';
import { listPlaces } from '$lib/server/reading/catalogue';

export const load: PageServerLoad = async () => ({ places: await listPlaces(db()) });
