import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readRecall } from '$lib/server/recall/read-recall.ts';

export const load: PageServerLoad = async ({ params, locals }) => ({
  page:
    (await readRecall(db(), params.number, new Date())) ??
    error(404, `There is no case ${params.number}.`),
  mayRecall: mayDo(locals.actor!.roles, 'recall'),
  mayProve: mayDo(locals.actor!.roles, 'see.costs'),
  me: locals.actor!.name
});
