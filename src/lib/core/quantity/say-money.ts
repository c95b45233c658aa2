import { quantity } from './quantity.ts';

const THOUSANDS = /\B(?=(\d{3})+(?!\d))/g;

/**
 * An amount to the cent, a half to the even neighbour: `-1234.5` → `−1,234.50`.
 * @param amount a decimal string
 */
export function sayMoney(amount: string): string {
  const [whole = '', cents = ''] = quantity(amount).abs().toFixed(2).split('.');
  const nothing = /^0+$/.test(whole) && cents === '00';
  const sign = amount.startsWith('-') && !nothing ? '−' : '';
  return `${sign}${whole.replace(THOUSANDS, ',')}.${cents}`;
}

/** The cost of one: to the cent, or finer where a cent is too much for it: `0.0125`; or not known. */
export function sayCost(cost: string | null): string {
  if (cost === null) return 'not known';
  const exact = quantity(cost);
  if (exact.isZero() || exact.gte(1)) return sayMoney(cost);
  return exact.toSignificantDigits(4).toFixed();
}
