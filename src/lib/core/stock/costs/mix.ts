import type { Quantity } from '../../quantity/quantity.ts';
import type { Cost } from './cost-event.ts';

/** Digits after the point that a cost of one is kept with: a million of it are exact to a millionth. */
export const COST_DIGITS = 12;

/**
 * The cost of one after more came to what lay here: the mean by quantity. Nothing takes the cost of
 * what came; with a part of unknown cost all of it is unknown, never guessed.
 */
export function mix(lying: Quantity, cost: Cost, came: Quantity, cameAt: Cost): Cost {
  if (came.lte(0)) return cost;
  if (lying.lte(0)) return cameAt;
  if (cost === null || cameAt === null) return null;
  return lying.times(cost).plus(came.times(cameAt)).div(lying.plus(came));
}

/** A cost as it is kept. */
export const kept = (cost: Cost): Cost => cost?.toDecimalPlaces(COST_DIGITS) ?? null;

export const sameCost = (one: Cost, other: Cost): boolean =>
  one === null || other === null ? one === other : one.eq(other);
