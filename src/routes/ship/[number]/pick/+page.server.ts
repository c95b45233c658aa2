import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readOrder } from '$lib/server/orders/read-orders.ts';
import { readPicksOf } from '$lib/server/shipping/picks.ts';
import { today } from '$lib/server/kernel/clock.ts';

export const load: PageServerLoad = async ({ params, locals }) => {
  const order = await readOrder(db(), 'sales', params.number);
  if (!order) error(404, `There is no sales order ${params.number}.`);
  return {
    order,
    picks: await readPicksOf(db(), order.number, today()),
    mayPick: mayDo(locals.actor!.roles, 'book.ship') && order.state !== 'closed',
    maySwap: mayDo(locals.actor!.roles, 'promise'),
    today: today()
  };
};
