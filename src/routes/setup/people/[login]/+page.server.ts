import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { ROLES } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';
import { readSecurityLog } from '$lib/server/people/security-log.ts';
import { changeablePerson, readPeople } from '$lib/server/people/write-people.ts';

/** Lines of the security log the page shows; the log has all. */
const MOST = 12;

export const load: PageServerLoad = async ({ params, locals }) => {
  const [person] = await readPeople(db(), params.login);
  if (!person) error(404, `Nobody signs in as ${params.login}. Check the name.`);
  return {
    person,
    tag: tagOf(changeablePerson(person)),
    own: person.login === locals.actor!.login,
    allRoles: [...ROLES],
    log: await readSecurityLog(db(), { who: person.login }, MOST)
  };
};
