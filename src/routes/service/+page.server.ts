import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listEndedJobs, listOpenJobs } from '$lib/server/service/list-jobs.ts';

export const load: PageServerLoad = async ({ locals, url }) => {
  const as = url.searchParams.get('as') === 'list' ? ('list' as const) : ('board' as const);
  const q = (url.searchParams.get('q') ?? '').trim().slice(0, 100);
  const [open, others] = await Promise.all([
    listOpenJobs(db()),
    as === 'list' ? listEndedJobs(db(), q) : { rows: [], total: 0 }
  ]);
  return { as, q, open, others, mayServe: mayDo(locals.actor!.roles, 'service') };
};
