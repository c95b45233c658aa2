import type { LayoutServerLoad } from './$types';
import { loadOrderList } from '$lib/server/orders/working-screen.ts';

export const load: LayoutServerLoad = ({ locals }) => loadOrderList('purchase', locals.actor!);
