import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listRecalls } from '$lib/server/recall/list-recalls.ts';

export const load: PageServerLoad = async ({ locals }) => ({
  recalls: await listRecalls(db()),
  mayRecall: mayDo(locals.actor!.roles, 'recall')
});
