import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readClaims } from '$lib/server/service/read-claims.ts';

export const load: PageServerLoad = async ({ locals, url }) => {
  const q = (url.searchParams.get('q') ?? '').trim().slice(0, 100);
  return { q, claims: await readClaims(db(), q), mayServe: mayDo(locals.actor!.roles, 'service') };
};
