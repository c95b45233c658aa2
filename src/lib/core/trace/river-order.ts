interface Placed {
  key: string;
  column: number;
  x: number;
  y: number;
}
interface Joined {
  from: string;
  to: string;
  weight: number;
}

/**
 * Puts nodes into their columns, each near the weighted middle of its neighbours, without
 * overlapping.
 * Sweeps rightwards and back a few times (the barycentre heuristic for layered drawings, Sugiyama
 * 1981).
 * @returns the height needed
 */
export function placeInColumns(
  nodes: readonly Placed[],
  ribbons: readonly Joined[],
  size: { width: number; height: number; gap: number; column: number }
): number {
  const columns: Placed[][] = [];
  for (const node of nodes) (columns[node.column] ??= []).push(node);
  const byKey = new Map(nodes.map((node) => [node.key, node]));
  const neighbours = new Map<string, { node: Placed; weight: number }[]>();
  for (const { from, to, weight } of ribbons) {
    const a = byKey.get(from)!,
      b = byKey.get(to)!;
    neighbours.set(from, [...(neighbours.get(from) ?? []), { node: b, weight }]);
    neighbours.set(to, [...(neighbours.get(to) ?? []), { node: a, weight }]);
  }
  const step = size.height + size.gap;
  // A column in between may have nobody in it.
  const tallest = Math.max(...Array.from(columns, (column) => column?.length ?? 0)) * step;
  for (const column of columns)
    column?.forEach((node, index) => {
      node.x = node.column * size.column;
      node.y = (tallest - column.length * step) / 2 + index * step;
    });
  const middle = (node: Placed, side: -1 | 1): number => {
    const near = (neighbours.get(node.key) ?? []).filter(
      (other) => Math.sign(other.node.column - node.column) === side
    );
    const sum = near.reduce((total, other) => total + other.weight + 1e-9, 0);
    return sum === 0
      ? node.y
      : near.reduce((total, other) => total + other.node.y * (other.weight + 1e-9), 0) / sum;
  };
  const settle = (column: Placed[] | undefined, side: -1 | 1) => {
    if (!column) return;
    const wanted = new Map(column.map((node) => [node.key, middle(node, side)]));
    column.sort((a, b) => wanted.get(a.key)! - wanted.get(b.key)! || (a.key < b.key ? -1 : 1));
    let floor = -Infinity;
    for (const node of column) {
      node.y = Math.max(wanted.get(node.key)!, floor);
      floor = node.y + step;
    }
    // Pushed too far down: slide the column back as a whole.
    const drift =
      column.reduce((sum, node) => sum + node.y - wanted.get(node.key)!, 0) / column.length;
    for (const node of column) node.y -= drift;
  };
  for (let sweep = 0; sweep < 4; sweep++) {
    for (let index = 1; index < columns.length; index++) settle(columns[index], -1);
    for (let index = columns.length - 2; index >= 0; index--) settle(columns[index], 1);
  }
  const top = Math.min(...nodes.map((node) => node.y));
  for (const node of nodes) node.y -= top;
  return Math.max(...nodes.map((node) => node.y)) + size.height;
}
