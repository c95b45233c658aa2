import { capital } from '../../core/capital.ts';
import type { CustomerWishes } from '../../core/catalogue/wishes.ts';

/** What a customer wishes of the goods it is sent, each in a few words. */
export const wishWords = (wishes: CustomerWishes): string[] =>
  [
    wishes.leastDays !== null ? `at least ${wishes.leastDays} days to run` : '',
    wishes.leastShare !== null ? `at least ${wishes.leastShare} % of its life to run` : '',
    wishes.oneLot ? 'one lot only' : '',
    wishes.oneDate ? 'one expiry date in a carton' : '',
    wishes.tested ? 'tested goods only' : ''
  ].filter(Boolean);

/**
 * The same as sentences; empty where nothing is wished.
 * @param limits of the customer's spec, in words
 */
export const sayWishes = (
  wishes: CustomerWishes | undefined,
  limits: readonly string[] = []
): string =>
  [
    ...(wishes ? wishWords(wishes) : []),
    ...(limits.length > 0 ? [`spec: ${limits.join(', ')}`] : [])
  ]
    .map((words) => `${capital(words)}.`)
    .join(' ');
