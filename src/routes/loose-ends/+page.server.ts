import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { keepAudit, LOOSE_ENDS, readTrend } from '$lib/server/trace/loose-ends.ts';
import { today } from '$lib/server/kernel/clock.ts';

/** The audit is run anew each time it is looked at. */
export const load: PageServerLoad = async () => {
  const audit = await keepAudit(db(), today());
  return { ...audit, kinds: LOOSE_ENDS, trend: await readTrend(db()), today: today() };
};
