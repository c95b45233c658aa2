import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { company } from '$lib/server/catalogue/company';
import { db } from '$lib/server/db/client';
import { engineOf } from '$lib/server/trace-engine/engines';

export const load: PageServerLoad = async ({ locals }) => ({
  company: await company(db()),
  index: engineOf(db())?.status() ?? null,
  mayEdit: mayDo(locals.actor!.roles, 'edit.catalogue')
});
