import type { Direction, Graph } from './graph.ts';

/**
 * Walks breadth first from the roots; every mark is visited once, so loops end.
 * Downstream: transformations a mark went into to their outputs, a lot to the serials within it, a
 * component to its hosts.
 * Upstream is the mirror: a serial pulls in its lot but not its sister serials. A *root* lot also
 * pulls in its own serials when walked upstream, for its origin is theirs.
 * @param serialsOf the serials within a root lot, where some are tied to it by a transformation and
 * are no members of the graph
 * @returns the level (shortest distance in links) of every mark reached, roots at 0, in the order
 * of the walk
 */
export function walk(
  graph: Graph,
  roots: readonly number[],
  direction: Direction,
  serialsOf: ReadonlyMap<number, readonly number[]> = new Map()
): Map<number, number> {
  const next =
    direction === 'downstream' ? downstreamOf(graph) : upstreamOf(graph, new Set(roots), serialsOf);
  const levels = new Map<number, number>(roots.map((root) => [root, 0]));
  const doneTransformations = new Set<number>();
  let frontier: number[] = [...roots];
  for (let level = 1; frontier.length > 0; level++) {
    const reached: number[] = [];
    const visit = (mark: number) => {
      if (levels.has(mark)) return;
      levels.set(mark, level);
      reached.push(mark);
    };
    for (const mark of frontier) {
      for (const transformation of next.transformations.get(mark) ?? []) {
        if (doneTransformations.has(transformation)) continue;
        doneTransformations.add(transformation);
        for (const other of next.through(transformation)) visit(other);
      }
      for (const other of next.direct.get(mark) ?? []) visit(other);
    }
    frontier = reached;
  }
  return levels;
}

interface Adjacency {
  transformations: Map<number, number[]>;
  through: (transformation: number) => Iterable<number>;
  direct: Map<number, number[]>;
}

function downstreamOf(graph: Graph): Adjacency {
  const transformations = new Map<number, number[]>();
  const direct = new Map<number, number[]>();
  graph.transformations.forEach((transformation, index) => {
    for (const input of transformation.inputs) push(transformations, input.mark, index);
  });
  for (const { lot, serial } of graph.members) push(direct, lot, serial);
  for (const { component, host } of graph.fittings) push(direct, component, host);
  for (const { component, host } of graph.removals ?? []) push(direct, host, component);
  return {
    transformations,
    direct,
    through: (index) => graph.transformations[index]!.outputs.map((output) => output.mark)
  };
}

function upstreamOf(
  graph: Graph,
  roots: ReadonlySet<number>,
  serialsOf: ReadonlyMap<number, readonly number[]>
): Adjacency {
  const transformations = new Map<number, number[]>();
  const direct = new Map<number, number[]>();
  graph.transformations.forEach((transformation, index) => {
    for (const output of transformation.outputs) push(transformations, output.mark, index);
  });
  for (const { lot, serial } of graph.members) {
    push(direct, serial, lot);
    if (roots.has(lot)) push(direct, lot, serial);
  }
  for (const root of roots)
    for (const serial of serialsOf.get(root) ?? []) push(direct, root, serial);
  for (const { component, host } of graph.fittings) push(direct, host, component);
  for (const { component, host } of graph.removals ?? []) push(direct, component, host);
  return {
    transformations,
    direct,
    through: (index) => graph.transformations[index]!.inputs.map((input) => input.mark)
  };
}

function push(map: Map<number, number[]>, key: number, value: number): void {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}
