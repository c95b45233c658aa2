import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readFloor } from '$lib/server/making/floor.ts';

export const load: PageServerLoad = async ({ url, locals, depends }) => {
  depends('floor:now');
  return {
    floor: await readFloor(db(), url.searchParams.get('route')),
    now: new Date().toISOString(),
    mayFloor: mayDo(locals.actor!.roles, 'floor'),
    mayEdit: mayDo(locals.actor!.roles, 'edit.catalogue')
  };
};
