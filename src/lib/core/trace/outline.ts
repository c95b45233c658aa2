import type { Direction, Graph } from './graph.ts';

export interface OutlineRow {
  mark: number;
  depth: number;
  /** How much of it went into, or came out of, the mark above; null for the root. */
  quantity: string | null;
  event: number | null;
  /** Shown with all below it further up already. */
  again: boolean;
}

/**
 * A trace as an indented list, each mark opened once, so loops end. Children stand in the order of
 * the graph.
 * @param most rows to give at the most
 */
export function outlineOf(
  graph: Graph,
  root: number,
  direction: Direction,
  most = 5000
): { rows: OutlineRow[]; cut: boolean } {
  const children = new Map<number, { mark: number; quantity: string; event: number }[]>();
  const push = (above: number, mark: number, quantity: string, event: number) => {
    const list = children.get(above);
    if (list) list.push({ mark, quantity, event });
    else children.set(above, [{ mark, quantity, event }]);
  };
  for (const { event, inputs, outputs } of graph.transformations) {
    for (const input of inputs)
      for (const output of outputs) {
        if (direction === 'downstream') push(input.mark, output.mark, output.quantity, event);
        else push(output.mark, input.mark, input.quantity, event);
      }
  }
  for (const { lot, serial, event } of graph.members) {
    if (direction === 'downstream' || lot === root) push(lot, serial, '1', event);
    if (direction === 'upstream') push(serial, lot, '1', event);
  }
  for (const { component, host, quantity, event } of graph.fittings)
    push(
      direction === 'downstream' ? component : host,
      direction === 'downstream' ? host : component,
      quantity,
      event
    );

  const rows: OutlineRow[] = [];
  const opened = new Set<number>();
  const stack: OutlineRow[] = [{ mark: root, depth: 0, quantity: null, event: null, again: false }];
  while (stack.length > 0) {
    if (rows.length >= most) return { rows, cut: true };
    const row = stack.pop()!;
    const again = opened.has(row.mark);
    rows.push({ ...row, again: again && (children.get(row.mark)?.length ?? 0) > 0 });
    if (again) continue;
    opened.add(row.mark);
    const below = children.get(row.mark) ?? [];
    for (let i = below.length - 1; i >= 0; i--)
      stack.push({
        mark: below[i]!.mark,
        depth: row.depth + 1,
        quantity: below[i]!.quantity,
        event: below[i]!.event,
        again: false
      });
  }
  return { rows, cut: false };
}
