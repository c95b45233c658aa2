import { sayCost } from '../../quantity/say-money.ts';

/** What one cost, or how that was told otherwise: `not known → 2.50`. */
export const sayCostChange = ({
  kind,
  costBefore,
  costAfter
}: {
  kind: string;
  costBefore: string | null;
  costAfter: string | null;
}): string =>
  costBefore === null && kind !== 'revaluation'
    ? sayCost(costAfter)
    : `${sayCost(costBefore)} → ${sayCost(costAfter)}`;
