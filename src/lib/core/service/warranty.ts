import { monthsLater, type Day } from '../calendar/day.ts';

/** A warranty as it stands: until a day, over since one, or none was given. */
export type Warranty = { state: 'running' | 'over'; until: Day } | { state: 'none' };

/**
 * Until when a warranty runs: so many months from the day it began, to the end of that day. A month
 * that is too short ends it on its last day (31 August and six months: 28 or 29 February).
 * @param began the day of dispatch or receipt; null where there was none
 * @param months null where none was given
 */
export function warrantyOf(began: Day | null, months: number | null, today: Day): Warranty {
  if (began === null || months === null) return { state: 'none' };
  const until = monthsLater(began, months);
  return { state: until < today ? 'over' : 'running', until };
}

/** `until 2028-03-12`, `over` or `none`, as the interface between programs says it. */
export const warrantyText = (warranty: Warranty): string =>
  warranty.state === 'running' ? `until ${warranty.until}` : warranty.state;
