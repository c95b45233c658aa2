import type { MarkingPlan } from '../catalogue/plan.ts';
import { sayDay } from '../calendar/say-day.ts';
import type { Faults } from '../faults/fault.ts';
import { groupBy } from '../group-by.ts';
import { lifeMissing, type CustomerWishes } from '../catalogue/wishes.ts';

/** A lot or serial that is to go to a customer, as far as wishes look at it. */
export interface Going {
  product: { id: number; code: string; plan: Pick<MarkingPlan, 'answers' | 'shelfLifeDays'> };
  /** As a sentence begins with it: `Lot R-88`. */
  name: string;
  number: string;
  /** The lot it is, or is within; null of a serial without one. */
  lot: string | null;
  expires: string | null;
  /** Whether a test its spec asks for is missing. */
  untested: boolean;
  path: string;
  /** Stood there before this request: it counts for one lot, and is told of itself no more. */
  before?: true;
}

/**
 * Tells where goods do not meet what their customer wishes: each by the answer of its plan.
 * @param wishes by product id
 * @param day the day they are judged on, `YYYY-MM-DD`
 * Faults: wish.unmet.
 */
export function tellWishes(
  going: readonly Going[],
  wishes: ReadonlyMap<number, CustomerWishes>,
  day: string,
  faults: Faults
): void {
  if (wishes.size === 0) return;
  for (const [id, goods] of groupBy(going, (one) => one.product.id)) {
    const wished = wishes.get(id);
    if (!wished) continue;
    const named = goods.filter((one) => !one.before);
    for (const one of named) tellOfOne(one, wished, day, faults);
    if (wished.oneLot && named.length > 0) tellLots(goods, named.at(-1)!.path, faults);
  }
}

function tellOfOne(one: Going, wished: CustomerWishes, day: string, faults: Faults): void {
  const { plan, code } = one.product;
  const life = lifeMissing({ expires: one.expires, life: plan.shelfLifeDays }, wished, day);
  if (life) {
    const runs = life.left < 0 ? 'has expired' : `runs ${sayDays(life.left)} more`;
    const message =
      `${one.name} of ${code} ${runs}, until ${sayDay(one.expires!)}, and this customer wishes ` +
      `${sayDays(life.wished)} at least. Take another.`;
    faults.answer(plan, 'life too short', one.path, message, one.number);
  }
  if (wished.tested && one.untested) {
    const message =
      `${one.name} of ${code} is not tested in full, and this customer wishes tested goods ` +
      'only. Have it tested and signed, or take another.';
    faults.answer(plan, 'not tested', one.path, message, one.number);
  }
}

function tellLots(goods: readonly Going[], path: string, faults: Faults): void {
  const lots = [...new Set(goods.flatMap((one) => one.lot ?? []))];
  if (lots.length < 2) return;
  const { plan, code } = goods[0]!.product;
  const message =
    `This customer wishes one lot of ${code}, and this would be ${lots.length}: ` +
    `${lots.slice(0, 4).join(', ')}${lots.length > 4 ? ' …' : ''}. Take all of one lot.`;
  faults.answer(plan, 'lots mixed', path, message, code);
}

const sayDays = (days: number): string => `${days} ${days === 1 ? 'day' : 'days'}`;
