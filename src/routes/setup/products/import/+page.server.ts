import type { PageServerLoad } from './$types';
import { PRODUCT_COLUMNS } from '$lib/server/catalogue/import-products.ts';

export const load: PageServerLoad = () => ({
  columns: PRODUCT_COLUMNS.map(({ says, required = false }) => ({ says, required }))
});
