import type { PageServerLoad } from './$types';
import { db } from '$lib/server/db/client';
import { readToday } from '$lib/server/reading/today';
import { recentMarks } from '$lib/server/reading/recent-marks';

export const load: PageServerLoad = async ({ locals, parent }) => {
  const { today } = await parent();
  const { held } = await readToday(db(), today, locals.actor!.personId);
  return { held, recent: await recentMarks(db()) };
};
