import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { company } from '$lib/server/catalogue/company.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';
import { readBrought, readWorth } from '$lib/server/stock/costs/read-revaluing.ts';

export const load: PageServerLoad = async ({ url }) => {
  const { currency } = await company(db());
  const mark = rowId(url.searchParams.get('mark') ?? '');
  if (mark !== null) {
    const worth = await readWorth(db(), mark);
    if (!worth) error(404, 'There is no such mark. Scan its number above.');
    return { currency, event: null, marks: [worth] };
  }
  const id = rowId(url.searchParams.get('event') ?? '');
  const brought = id === null ? null : await readBrought(db(), id);
  if (!brought)
    error(404, 'That event brought nothing in. Open a receipt, opening stock or a gain.');
  return { currency, ...brought };
};
