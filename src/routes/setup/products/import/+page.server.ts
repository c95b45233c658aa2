import type { PageServerLoad } from './$types';
import { PRODUCT_COLUMNS } from '$lib/server/imports/products';

export const load: PageServerLoad = () => ({
  columns: PRODUCT_COLUMNS.map(({ says, required = false }) => ({ says, required }))
});
