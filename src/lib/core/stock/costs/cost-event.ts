import type { Quantity } from '../../quantity/quantity.ts';

/** The cost of one unit of a mark; null where it is not known. */
export type Cost = Quantity | null;

/** What one of a mark cost from events on, the earliest first. */
export type CostCourse = readonly { event: number; cost: Cost }[];

/**
 * What one cost once an event had passed.
 * @param before what it cost before all of them; a cost that became unknown since is unknown
 */
export function costAfter(course: CostCourse | undefined, event: number, before: Cost): Cost {
  const last = course?.findLast((one) => one.event <= event);
  return last ? last.cost : before;
}

/** What went into what, in one booking. */
export interface CostTie {
  inputs: readonly { mark: number; quantity: Quantity }[];
  outputs: readonly CostOutput[];
  /** What went into several together; its outputs are made by others of the same booking. */
  shared: boolean;
  /** Taken apart: a part that is known comes out at its own cost. */
  apart: boolean;
}

export interface CostOutput {
  mark: number;
  quantity: Quantity;
  /** The part of the inputs it takes, where its bill states it. */
  share: Quantity | null;
  /** Whether it is what the bill is of: its work is added to it. */
  added: Quantity | null;
  /** What it counts when inputs are spread: net weight, or quantity. Null where nothing is known. */
  weight: Quantity | null;
}

/** A part that went into a unit, or came out of one. */
export interface CostFitting {
  part: number;
  host: number;
  quantity: Quantity;
}

/** All that an event says of costs. Marks by id, quantities in the mark’s own unit. */
export interface CostEvent {
  id: number;
  kind: string;
  /** What it moved of each mark over all places: in above zero. */
  net: ReadonlyMap<number, Quantity>;
  /** The cost of one of what came in, where it was told. */
  costs: ReadonlyMap<number, Quantity>;
  ties: readonly CostTie[];
  fittings: readonly CostFitting[];
  removals: readonly CostFitting[];
  /** What a revaluation says one is worth from here on. */
  told: ReadonlyMap<number, Quantity>;
}

/** Marks whose cost an event asks for: what went in, and parts with their units. */
export const marksAsked = ({ ties, fittings, removals }: CostEvent): number[] => [
  ...ties.flatMap((tie) => tie.inputs.map(({ mark }) => mark)),
  ...[...fittings, ...removals].flatMap(({ part, host }) => [part, host])
];
