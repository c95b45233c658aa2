import type { LayoutServerLoad } from './$types';
import { loadOrderList } from '$lib/server/reading/working-screen';

export const load: LayoutServerLoad = ({ locals }) => loadOrderList('work', locals.actor!);
