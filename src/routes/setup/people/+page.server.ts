import type { PageServerLoad } from './$types';
import { ROLES } from '$lib/core/access/rights';
import { readPeople } from '$lib/server/catalogue/people';
import { db } from '$lib/server/db/client';

export const load: PageServerLoad = async () => ({
  people: await readPeople(db()),
  allRoles: [...ROLES]
});
