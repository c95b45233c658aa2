import type { PageServerLoad } from './$types';
import { ROLES } from '$lib/core/people/rights.ts';
import { readPeople } from '$lib/server/people/write-people.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const load: PageServerLoad = async () => ({
  people: await readPeople(db()),
  allRoles: [...ROLES]
});
