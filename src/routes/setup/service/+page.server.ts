import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listFaults, readSettings } from '$lib/server/service/settings.ts';

export const load: PageServerLoad = async ({ locals }) => {
  const [settings, faults] = await Promise.all([readSettings(db()), listFaults(db())]);
  return { settings, faults, mayEdit: mayDo(locals.actor!.roles, 'edit.catalogue') };
};
