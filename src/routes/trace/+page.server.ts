import type { PageServerLoad } from './$types';
import { db } from '$lib/server/db/client';
import { recentMarks } from '$lib/server/reading/recent-marks';
import { readHeld } from '$lib/server/reading/today';

export const load: PageServerLoad = async () => ({ held: await readHeld(db()), recent: await recentMarks(db()) });
