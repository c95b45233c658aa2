import type { Warranty } from '../../core/service/warranty.ts';
import { sayDay } from '../../core/calendar/say-day.ts';

/** A warranty in words, as the rest of a sentence. */
export function sayWarranty(warranty: Warranty | null | undefined): string {
  if (!warranty || warranty.state === 'none') return 'no warranty known';
  const day = sayDay(warranty.until);
  return warranty.state === 'running'
    ? `under warranty until ${day}`
    : `warranty over since ${day}`;
}
