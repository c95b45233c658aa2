import type { Day } from './day.ts';

/**
 * The year two digits mean: within −49…+50 years of today. Source: GS1 General Specifications 7.12,
 * quoted from memory.
 * @param digits 0 to 99
 * @param today `YYYY-MM-DD`
 */
export function wholeYear(digits: number, today: Day): number {
  const now = Number(today.slice(0, 4));
  const here = now - (now % 100) + digits;
  if (here - now > 50) return here - 100;
  return now - here > 49 ? here + 100 : here;
}
