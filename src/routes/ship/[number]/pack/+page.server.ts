import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { db } from '$lib/server/db/client';
import { readOrder } from '$lib/server/reading/orders';
import { readPicksOf } from '$lib/server/reading/picks';
import { readUnitPages } from '$lib/server/reading/units';
import { today } from '$lib/server/today';

export const load: PageServerLoad = async ({ params, locals }) => {
  const order = await readOrder(db(), 'sales', params.number);
  if (!order) error(404, `There is no sales order ${params.number}.`);
  const [picks, units] = await Promise.all([
    readPicksOf(db(), order.number),
    readUnitPages(db(), { order: order.number })
  ]);
  return {
    order,
    picks,
    units,
    mayPack: mayDo(locals.actor!.roles, 'book.ship') && order.state !== 'closed',
    today: today()
  };
};
