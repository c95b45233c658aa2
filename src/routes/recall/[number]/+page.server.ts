import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { db } from '$lib/server/db/client';
import { readRecall } from '$lib/server/reading/recall';

export const load: PageServerLoad = async ({ params, locals }) => ({
  page:
    (await readRecall(db(), params.number, new Date())) ??
    error(404, `There is no case ${params.number}.`),
  mayRecall: mayDo(locals.actor!.roles, 'recall'),
  me: locals.actor!.name
});
