import type { PageServerLoad } from './$types';
import { daysLater } from '$lib/core/calendar/day.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { nextOrderNumber } from '$lib/server/orders/next-order-number.ts';

const KINDS = ['purchase', 'work', 'sales'] as const;

export const load: PageServerLoad = async ({ url, parent }) => {
  const { today } = await parent();
  const kind = KINDS.find((one) => one === url.searchParams.get('kind')) ?? 'purchase';
  return {
    kind,
    number: await nextOrderNumber(db(), kind),
    due: daysLater(today, 7)
  };
};
