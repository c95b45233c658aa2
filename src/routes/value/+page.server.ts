import type { PageServerLoad } from './$types';
import { isDay } from '$lib/core/calendar/day.ts';
import { totalOf } from '$lib/core/quantity/quantity.ts';
import { company } from '$lib/server/catalogue/company.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { today } from '$lib/server/kernel/clock.ts';
import { readValue, readValueBy, VALUED_BY } from '$lib/server/stock/costs/read-value.ts';

/** Most marks the screen lists; its sums are of everything. */
const MOST = 300;

export const load: PageServerLoad = async ({ url }) => {
  const param = (name: string) => (url.searchParams.get(name) ?? '').trim().slice(0, 60);
  const asked = param('day');
  const day = isDay(asked) && asked < today() ? asked : undefined;
  const by = VALUED_BY.find((one) => one === param('by')) ?? 'product';
  const only = { product: param('product'), place: param('place'), number: param('number') };
  const given = {
    day,
    product: only.product || undefined,
    place: only.place || undefined,
    number: only.number || undefined
  };
  const narrow = Object.values(only).some(Boolean);
  const [{ currency }, groups, marks] = await Promise.all([
    company(db()),
    readValueBy(db(), by, given),
    narrow ? readValue(db(), given, MOST) : null
  ]);
  return {
    ...{ currency, marks, day, by, only },
    groups: groups.slice(0, MOST),
    count: groups.length,
    value: totalOf(groups.map((one) => one.total)),
    unknown: groups.reduce((sum, one) => sum + one.unknown, 0)
  };
};
