import { linksOf, type Direction, type Graph, type Link } from './graph.ts';
import type { PartnerEnd, TraceFindings } from './trace.ts';
import type { MarkRecord } from '../ledger/mark-record.ts';

/** Where a trace is cut: as it stood at an instant, and what it does not go through. */
export interface TraceCut {
  until?: Date;
  /** Product codes not gone into. */ withoutProducts?: readonly string[];
  /** Kinds of event not gone through: build, repack, teardown, identify. */
  withoutKinds?: readonly string[];
  /** The events it starts at: what they brought, or the roots as they were when they left. */
  from?: readonly number[];
  /** Ignored, whatever is tied together is reached; obeyed where nothing is said. */
  clocks?: 'obey' | 'ignore';
}

/** What time cleared: made before any of it came, or already gone. */
export interface ClearedByTime {
  marks: MarkRecord[];
  customers: PartnerEnd[];
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
  cleared: ClearedByTime;
  /** The clock that content was carried by, where it was. */
  contentBy?: 'happened' | 'booked';
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
  /** Ids of marks that time cleared, and who got what was. */
  cleared: { marks: ArrayLike<number>; customers: PartnerEnd[] };
  contentBy: 'happened' | 'booked' | null;
}

/** The API's form: every link spelt out between two marks. */
export function spellOut({ graph, ...rest }: TraceDrawing): TraceAnswer {
  return { ...rest, links: linksOf(graph) };
}
