import type { PageServerLoad } from './$types';
import { isDay } from '$lib/core/calendar/day.ts';
import { company } from '$lib/server/catalogue/company.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { today } from '$lib/server/kernel/clock.ts';
import { readValueChanges } from '$lib/server/stock/costs/read-value-changes.ts';

/** Most changes the screen lists; its sums are of everything. */
const MOST = 300;

export const load: PageServerLoad = async ({ url }) => {
  const now = today();
  const param = (name: string, other: string) => {
    const text = url.searchParams.get(name) ?? '';
    return isDay(text) ? text : other;
  };
  const to = param('to', now);
  const from = param('from', `${to.slice(0, 8)}01`);
  const [{ currency }, changes] = await Promise.all([
    company(db()),
    readValueChanges(db(), { from, to }, MOST)
  ]);
  return { currency, from, to, ...changes };
};
