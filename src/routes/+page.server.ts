import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { db } from '$lib/server/db/client';
import { readToday } from '$lib/server/reading/today';

export const load: PageServerLoad = async ({ locals, parent }) => {
  const { today } = await parent();
  const { roles, personId } = locals.actor!;
  return { ...(await readToday(db(), today, personId)), mine: { receive: mayDo(roles, 'book.receive'), build: mayDo(roles, 'book.build'), ship: mayDo(roles, 'book.ship') } };
};
