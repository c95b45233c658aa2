import type { PageServerLoad } from './$types';
import { loadSheet } from '$lib/server/reading/working-screen';

export const load: PageServerLoad = ({ params, locals }) =>
  loadSheet('sales', params.number, locals.actor!);
