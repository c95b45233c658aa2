import type { PageServerLoad } from './$types';
import { isDay } from '$lib/core/calendar/day.ts';
import { totalOf } from '$lib/core/quantity/quantity.ts';
import { company } from '$lib/server/catalogue/company.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { today } from '$lib/server/kernel/clock.ts';
import { keptAnswer } from '$lib/server/kernel/kept-answer.ts';
import {
  readValue,
  readValueBy,
  VALUED_BY,
  type ValueAsked,
  type ValuedBy,
  type ValueGroup
} from '$lib/server/stock/costs/read-value.ts';

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
  const [{ currency }, { answer, at, underWay }, marks] = await Promise.all([
    company(db()),
    // Of everything there is it takes long; of one product, place or lot it does not.
    narrow
      ? asIs(summed(by, given))
      : keptAnswer(db(), `value by ${by} ${day ?? ''}`, () => summed(by, given)),
    narrow ? readValue(db(), given, MOST) : null
  ]);
  return { ...{ currency, marks, day, by, only, at, underWay }, ...(answer ?? NOTHING_YET) };
};

interface Summed {
  groups: ValueGroup[];
  count: number;
  value: string;
  unknown: number;
}

const NOTHING_YET: Summed = { groups: [], count: 0, value: '', unknown: 0 };

/** The largest groups, and sums over all of them. */
async function summed(by: ValuedBy, given: ValueAsked): Promise<Summed> {
  const groups = await readValueBy(db(), by, given);
  return {
    groups: groups.slice(0, MOST),
    count: groups.length,
    value: totalOf(groups.map((one) => one.total)),
    unknown: groups.reduce((sum, one) => sum + one.unknown, 0)
  };
}

const asIs = async (answer: Promise<Summed>) => ({
  answer: await answer,
  at: new Date().toISOString(),
  underWay: false
});
