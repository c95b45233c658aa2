import type { PageServerLoad } from './$types';
import { loadSheet } from '$lib/server/orders/working-screen.ts';

export const load: PageServerLoad = ({ params, locals }) =>
  loadSheet('work', params.number, locals.actor!);
