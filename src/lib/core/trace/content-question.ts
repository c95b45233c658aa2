import type { Graph } from './graph.ts';
import type { Presence } from './presence.ts';

/** An event as content is carried through it. */
export interface CarriedEvent {
  id: number;
  kind: string;
  /** Microseconds of the instant it happened. */
  happened: number;
  partner: string | null;
  /** The event a reversal takes back. */
  undone: number | null;
}

export interface ContentQuestion {
  /** What was gone through. */
  graph: Graph;
  /** How the hosts of the whole graph were taken apart. */
  presences: ReadonlyMap<number, Presence>;
  marks: ReadonlySet<number>;
  /** Marks that are the root through and through: the roots and the serials within them. */
  own: ReadonlySet<number>;
  /** The events that brought in what is traced, where it is not all that ever came of the roots. */
  from: ReadonlySet<number> | null;
  /** Whether a mark is one unit. */
  single: (mark: number) => boolean;
  events: readonly CarriedEvent[];
  movements: readonly { event: number; mark: number; quantity: string }[];
  unitOf: (mark: number) => string;
}
