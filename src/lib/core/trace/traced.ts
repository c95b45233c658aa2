import type { MarkKind } from '../catalogue/marking.ts';
import type { Direction, Graph } from './graph.ts';

export interface TracedMark {
  id: number;
  kind: MarkKind;
  unit: string;
}
export interface TracedMovement {
  event: number;
  mark: number;
  place: string;
  quantity: string;
}
/** `at` is an instant in ISO form. */
export interface TracedEvent {
  id: number;
  kind: string;
  document: string;
  partner: string | null;
  at: string;
  /** Who booked it. */ by: string;
  /** The kind a reversal took back, and its event. */
  undoes?: string | null;
  undone?: number | null;
  /** Microseconds of the instant it happened, as exact as the ledger keeps it. */
  happened: number;
}

/** Everything read from the ledger around the roots. */
export interface TraceMaterial {
  direction: Direction;
  roots: readonly number[];
  marks: readonly TracedMark[];
  graph: Graph;
  /** All that stands of the hosts that something was taken out of, on either side of them. */
  hosts: Graph;
  movements: readonly TracedMovement[];
  /** Marks whose state or dates an event changed without moving them. */
  changes: readonly { event: number; mark: number }[];
  events: readonly TracedEvent[];
  stock: readonly { mark: number; place: string; quantity: string }[];
  /** What transformations took of each root and of the serials within it. */
  rootUsed: ReadonlyMap<number, string>;
  /** The serials within root lots, those too that got their number out of the lot's own stock. */
  rootSerials?: ReadonlyMap<number, readonly number[]>;
  /** Whether the clocks are obeyed; ignored, whatever is tied together is reached. */
  clocks: 'obey' | 'ignore';
  /** Whether content is asked for, which costs the most. */
  content: boolean;
  /** The events the trace starts at; null where it starts at the beginning, or the end, of time. */
  from: ReadonlySet<number> | null;
}

export interface PartnerEnd {
  /** The booking it went, or came, by. */ event: number;
  partner: string;
  document: string;
  at: string;
  mark: number;
  quantity: string;
}
export interface PlaceEnd {
  mark: number;
  place: string;
  quantity: string;
}
export interface ScrapEnd extends PlaceEnd {
  document: string;
  at: string;
}

/** Goods that came from nobody: they lay here before Earmark, or were found. */
export interface OriginEnd extends PlaceEnd {
  event: number;
  kind: string;
  document: string;
  at: string;
}

/** Kinds of event that bring goods in that nobody sent and nothing made. */
export const ORIGIN_KINDS: ReadonlySet<string> = new Set(['opening', 'gain', 'count', 'intake']);

const ORIGINS: Readonly<Record<string, string>> = {
  opening: 'Opening stock',
  intake: 'Came in for service'
};

/** What such an event says of where they came from. */
export const sayOrigin = (kind: string): string => ORIGINS[kind] ?? 'Found at a count';
