import type { Quantity } from '../quantity/quantity.ts';
import { CarryInTime } from './carry-in-time.ts';
import type { ContentQuestion } from './content-question.ts';

export interface CarriedContent {
  content: Map<number, Quantity>;
  /** The clock it was carried by. */
  by: 'happened' | 'booked';
}

/**
 * How much of the root is in each mark, carried through time once: each event takes from a mark the
 * same share of its quantity and of the root's part of it, at that instant, and gives it on. By the
 * order of happening; by that of booking where the first would take out of some mark more than was
 * there yet. Source: design, time and parts.
 */
export function contentInTime(question: ContentQuestion): CarriedContent {
  const happening = [...question.events].sort((a, b) => a.happened - b.happened || a.id - b.id);
  const carried = new CarryInTime(question, happening, true);
  if (carried.carry()) return { content: carried.reported, by: 'happened' };
  const booking = [...question.events].sort((a, b) => a.id - b.id);
  const again = new CarryInTime(question, booking, false);
  again.carry();
  return { content: again.reported, by: 'booked' };
}
