import { redirect } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';

/** Opens the most urgent order. */
export const load: PageServerLoad = async ({ parent }) => {
  const { orders } = await parent();
  if (orders[0]) redirect(303, `/build/${encodeURIComponent(orders[0].number)}`);
};
