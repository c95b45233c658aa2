import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { db } from '$lib/server/db/client';
import { listRecalls } from '$lib/server/reading/recall';

export const load: PageServerLoad = async ({ locals }) => ({
  recalls: await listRecalls(db()),
  mayRecall: mayDo(locals.actor!.roles, 'recall')
});
