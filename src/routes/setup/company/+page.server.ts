import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { company } from '$lib/server/catalogue/company.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { engineOf } from '$lib/server/trace/engine/engines.ts';

export const load: PageServerLoad = async ({ locals }) => ({
  company: await company(db()),
  index: engineOf(db())?.status() ?? null,
  mayEdit: mayDo(locals.actor!.roles, 'edit.catalogue')
});
