export type Direction = 'upstream' | 'downstream';

/** A mark's id; quantities are exact decimal strings in the mark's own unit. */
export interface UsedMark {
  mark: number;
  quantity: string;
}
export interface MadeMark {
  mark: number;
  quantity: string;
  share: string | null;
}

/** Inputs that became outputs. The graph is bipartite: mark → transformation → mark. */
export interface Transformation {
  id: number;
  event: number;
  inputs: readonly UsedMark[];
  outputs: readonly MadeMark[];
  /** Whether it takes its inputs apart and mixes nothing: what comes out is what was in them. */
  separates?: boolean;
  /** Whether its outputs are made by others of its event: what went into all of them together. */
  shared?: boolean;
}

/** A serial within a lot. */
export interface Member {
  lot: number;
  serial: number;
  event: number;
}

/** A component fitted into a host unit; or, among removals, taken out of it again. */
export interface Fitting {
  component: number;
  host: number;
  quantity: string;
  event: number;
}

/** The part of the genealogy around a root, as read from the ledger. */
export interface Graph {
  transformations: readonly Transformation[];
  members: readonly Member[];
  fittings: readonly Fitting[];
  removals?: readonly Fitting[];
}

export interface Link {
  type: 'made' | 'member' | 'fitted' | 'removed';
  /** Always upstream → downstream. */
  from: number;
  to: number;
  transformation?: number;
  event: number;
}

/**
 * Every link between two marks, one per pair and transformation. A batch of 50 components and 1,000
 * units spreads into 50,000 links here, which is why walking and content work on the bipartite form
 * and only an answer is spread.
 */
export function linksOf(graph: Graph): Link[] {
  const links: Link[] = [];
  for (const { id, event, inputs, outputs } of graph.transformations) {
    for (const input of inputs)
      for (const output of outputs)
        links.push({ type: 'made', from: input.mark, to: output.mark, transformation: id, event });
  }
  for (const { lot, serial, event } of graph.members)
    links.push({ type: 'member', from: lot, to: serial, event });
  for (const { component, host, event } of graph.fittings)
    links.push({ type: 'fitted', from: component, to: host, event });
  for (const { component, host, event } of graph.removals ?? [])
    links.push({ type: 'removed', from: host, to: component, event });
  return links;
}
