import type { Lying } from '../lying.ts';

/** What one of a mark cost from an event on, and which event told so; costs as decimal strings. */
export interface MarkCost {
  /** Null where it is not known. */
  cost: string | null;
  event: number;
  kind: string;
  document: string;
  day: string;
  /** Told by a later event than its own. */
  toldBy: { event: number; kind: string; document: string } | null;
}

/** What an event did to the value of a mark while the goods stayed. */
export interface EventCost {
  mark: number;
  number: string | null;
  product: string;
  name: string;
  unit: string;
  lying: string;
  /** What one cost, and costs now; null where that is not known. */
  before: string | null;
  after: string | null;
  /** What lies here is worth so much more, and what had left was; null where nobody can say. */
  here: string | null;
  gone: string | null;
}

/** A mark whose cost may be told otherwise, with what it is told to be by now. */
export type RevaluingMark = Pick<
  Lying,
  'mark' | 'kind' | 'number' | 'lot' | 'product' | 'name' | 'unit' | 'quantity'
> & { cost: string | null };
