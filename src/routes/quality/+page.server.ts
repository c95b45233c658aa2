import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { pageAsked } from '$lib/server/http/page-asked.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readRetests, readSpecced, readUnsigned } from '$lib/server/quality/read-quality.ts';
import { readHeld } from '$lib/server/stock/held.ts';

export const load: PageServerLoad = async ({ locals, parent, url }) => {
  const asked = pageAsked(url);
  const { today } = await parent();
  const [held, unsigned, retests, specs] = await Promise.all([
    readHeld(db(), 200),
    readUnsigned(db(), locals.actor!.personId),
    readRetests(db(), today, 30),
    readSpecced(db(), asked)
  ]);
  return {
    held,
    unsigned,
    retests,
    ...{ specs, ...asked },
    mayTest: mayDo(locals.actor!.roles, 'test'),
    mayDecide: mayDo(locals.actor!.roles, 'decide.quality')
  };
};
