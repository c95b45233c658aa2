import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { db } from '$lib/server/db/client';
import { readOrder } from '$lib/server/reading/orders';
import { readPicksOf } from '$lib/server/reading/picks';
import { today } from '$lib/server/today';

export const load: PageServerLoad = async ({ params, locals }) => {
  const order = await readOrder(db(), 'sales', params.number);
  if (!order) error(404, `There is no sales order ${params.number}.`);
  return {
    order,
    picks: await readPicksOf(db(), order.number),
    mayPick: mayDo(locals.actor!.roles, 'book.ship') && order.state !== 'closed',
    maySwap: mayDo(locals.actor!.roles, 'promise'),
    today: today()
  };
};
