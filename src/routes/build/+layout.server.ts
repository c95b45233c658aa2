import type { LayoutServerLoad } from './$types';
import { loadOrderList } from '$lib/server/orders/working-screen.ts';

/** Read anew by itself as orders change: the sheet beside it stays as it is. */
export const load: LayoutServerLoad = ({ locals, depends }) => {
  depends('orders:list');
  return loadOrderList('work', locals.actor!);
};
