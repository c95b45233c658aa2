import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { db } from '$lib/server/db/client';
import { readFloor } from '$lib/server/reading/floor';

export const load: PageServerLoad = async ({ url, locals, depends }) => {
  depends('floor:now');
  return { floor: await readFloor(db(), url.searchParams.get('route')), now: new Date().toISOString(), mayFloor: mayDo(locals.actor!.roles, 'floor'), mayEdit: mayDo(locals.actor!.roles, 'edit.catalogue') };
};
