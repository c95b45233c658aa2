import type { PageServerLoad } from './$types';
import { ORDER_COLUMNS } from '$lib/server/orders/import-orders.ts';

const KINDS = ['purchase', 'work', 'sales'] as const;

export const load: PageServerLoad = ({ url }) => {
  const kind = KINDS.find((one) => one === url.searchParams.get('kind')) ?? 'purchase';
  return {
    kind,
    columns: ORDER_COLUMNS(kind).map(({ says, required = false }) => ({ says, required }))
  };
};
