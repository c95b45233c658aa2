import type { PageServerLoad } from './$types';
import { ROLES } from '$lib/core/people/rights.ts';
import { readAccessSettings } from '$lib/server/people/account/access-settings.ts';
import { readPeople } from '$lib/server/people/write-people.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const load: PageServerLoad = async ({ locals }) => ({
  people: await readPeople(db()),
  settings: await readAccessSettings(db()),
  own: locals.actor!.login,
  allRoles: [...ROLES]
});
