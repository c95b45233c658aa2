import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { db } from '$lib/server/db/client';
import { readRetests, readSpecced, readUnsigned } from '$lib/server/reading/quality';
import { readHeld } from '$lib/server/reading/today';

export const load: PageServerLoad = async ({ locals, parent }) => {
  const { today } = await parent();
  const [held, unsigned, retests, products] = await Promise.all([
    readHeld(db()),
    readUnsigned(db(), locals.actor!.personId),
    readRetests(db(), today, 30),
    readSpecced(db())
  ]);
  return {
    held,
    unsigned,
    retests,
    products,
    mayTest: mayDo(locals.actor!.roles, 'test'),
    mayDecide: mayDo(locals.actor!.roles, 'decide.quality')
  };
};
