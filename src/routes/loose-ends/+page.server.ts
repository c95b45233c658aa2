import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { keptAudit, LOOSE_ENDS, readTrend } from '$lib/server/trace/loose-ends.ts';
import { today } from '$lib/server/kernel/clock.ts';

/** The audit as it is now, or where it takes long as it was when it was last looked over. */
export const load: PageServerLoad = async () => {
  const day = today();
  const { answer, at, underWay } = await keptAudit(db(), day);
  const { ends, counts } = answer ?? { ends: [], counts: null };
  return {
    ends,
    counts,
    at,
    underWay,
    kinds: LOOSE_ENDS,
    trend: await readTrend(db()),
    today: day
  };
};
