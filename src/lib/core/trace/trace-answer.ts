import { linksOf, type Direction, type Graph, type Link } from './graph.ts';
import type { TraceFindings } from './trace.ts';
import type { MarkRecord } from '../ledger/mark-record.ts';

/** Where a trace is cut: as it stood at an instant, and what it does not go through. */
export interface TraceCut {
  until?: Date;
  /** Product codes not gone into. */ withoutProducts?: readonly string[];
  /** Kinds of event not gone through: build, repack, teardown, identify. */
  withoutKinds?: readonly string[];
}

export interface TraceAnswer {
  root: MarkRecord;
  roots: MarkRecord[];
  direction: Direction;
  marks: (MarkRecord & { level: number; content?: string })[];
  links: Link[];
  events: TraceFindings['events'];
  ends: TraceFindings['ends'];
  /** Of the first root; `balances` has them all. */
  balance: Omit<TraceFindings['balances'][number], 'mark' | 'causes'>;
  balances: TraceFindings['balances'];
}

/** The same answer with the genealogy still bipartite, for screens that draw it. */
export interface TraceDrawing extends Omit<TraceAnswer, 'links'> {
  graph: Graph;
}

/**
 * The figures of a trace without the marks' own data: ids in the order of the walk, roots first,
 * `levels` and `content` beside them.
 */
export interface TraceFigures {
  roots: number;
  marks: ArrayLike<number>;
  levels: ArrayLike<number>;
  /** Product of each mark, by id. */
  product: ArrayLike<number>;
  /**
   * Content of each mark as a place in `contents`; null upstream, and where products are left out.
   */
  content: ArrayLike<number> | null;
  contents: readonly string[];
  ends: TraceFindings['ends'];
  balances: TraceFindings['balances'];
}

/** The API's form: every link spelt out between two marks. */
export function spellOut({ graph, ...rest }: TraceDrawing): TraceAnswer {
  return { ...rest, links: linksOf(graph) };
}
