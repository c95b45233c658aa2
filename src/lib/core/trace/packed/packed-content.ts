import { Carrier } from './carrier.ts';
import { eventsOfTrace } from './event-order.ts';
import type { ContentQuestion } from './parts-inside.ts';

export interface CarriedContent {
  /** By place, scaled as core/trace/packed/amounts.ts says. */
  content: bigint[];
  by: 'happened' | 'booked';
}

/**
 * How much of the roots is in each mark reached, carried through time once: the rules of
 * core/trace/content-in-time.ts on whole numbers with thirty places after the point. What division
 * leaves stays where it was, and the last output takes what is left, so content is conserved.
 */
export function packedContent(question: ContentQuestion): CarriedContent {
  const { ledger, reached, cut } = question;
  const events = eventsOfTrace(ledger, reached, cut);
  const numbers = Uint32Array.from(events.ids, (_, n) => n);
  const at = Float64Array.from(events.ids, (event) => ledger.eventAt(event));
  numbers.sort((a, b) => at[a]! - at[b]! || events.ids[a]! - events.ids[b]!);
  const carrier = new Carrier(question, events);
  if (carrier.carry(numbers, true)) return { content: carrier.reported, by: 'happened' };
  numbers.sort((a, b) => events.ids[a]! - events.ids[b]!);
  const again = new Carrier(question, events);
  again.carry(numbers, false);
  return { content: again.reported, by: 'booked' };
}
