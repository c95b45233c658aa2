import { daysBetween } from '../calendar/day.ts';
import { quantity } from '../quantity/quantity.ts';

/** What a customer wishes of what is chosen for them. */
export interface Wishes {
  leastDays: number | null;
  /** Least part of the shelf life still to run, in per cent. */
  leastShare: string | null;
  oneLot: boolean;
  /** Whether only what was tested may go. */
  tested: boolean;
}

/** And of how it is packed. */
export interface CustomerWishes extends Wishes {
  /** One expiry date in a carton. */
  oneDate: boolean;
}

export const NO_WISHES: CustomerWishes = {
  leastDays: null,
  leastShare: null,
  oneLot: false,
  oneDate: false,
  tested: false
};

/** What of a lot or serial the wish for life looks at; days as `YYYY-MM-DD`. */
interface Living {
  expires: string | null;
  /** Shelf life it began with in days, where known. */
  life: number | null;
}

/** How long goods still run, and what the customer wishes, in days. */
export interface LifeMissing {
  left: number;
  wished: number;
}

/**
 * How much life goods lack of what a customer wishes, on a day; null where they have enough, or no
 * expiry. Of a share, the days are rounded up: 66.7 % of 100 days is 67 days.
 */
export function lifeMissing(goods: Living, wishes: Wishes, day: string): LifeMissing | null {
  if (goods.expires === null) return null;
  const byShare =
    wishes.leastShare === null || goods.life === null
      ? 0
      : quantity(wishes.leastShare).times(goods.life).div(100).ceil().toNumber();
  const wished = Math.max(wishes.leastDays ?? 0, byShare);
  const left = daysBetween(day, goods.expires);
  return left < wished ? { left, wished } : null;
}
