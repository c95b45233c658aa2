import type { Presence } from '../presence.ts';
import type { Column } from './column.ts';
import type { LoadedNode } from './open-ledger.ts';

/**
 * Where a walk is cut: what had happened by an instant (microseconds since 2000-01-01), products
 * not gone into (ids), kinds of event not gone through. `from`: the events the roots start at.
 * `clocks: 'ignore'`: whatever is tied together is reached.
 */
export interface PackedCut {
  until?: number;
  withoutProducts?: readonly number[];
  withoutKinds?: readonly string[];
  from?: readonly number[];
  clocks?: 'obey' | 'ignore';
}

/** What a walk reached. Arrays are the walker's own and good until its next walk. */
export interface Reached {
  /** Marks in the order of the walk, roots first; those there are. */
  marks: Column;
  /** Where in `marks` each level begins. */
  levelStarts: number[];
  /** Nodes gone through that keep an input and an output in what was reached. */
  nodes: Column;
  /** Place of a mark in `marks` + 1; 0 where it was not reached. */
  placeOf: Uint32Array;
  /** Whether what a mark reached did in an event belongs to the trace. */
  counts: (mark: number, event: number) => boolean;
  /** Whether an input, an output of a node gone through (loaded) belongs to the trace. */
  keepsInput: (id: number, node: LoadedNode, at: number) => boolean;
  keepsOutput: (id: number, node: LoadedNode, at: number) => boolean;
  /** Downstream: whether it is still in a mark; in one taken apart, whether it was then. */
  isInAtTheEnd: (mark: number) => boolean;
  /** How parts stayed in a host that something was taken out of. */
  presenceOf: (host: number) => Presence;
  /** Whether anything that is tied to what was reached was cleared. */
  cleared: boolean;
}
