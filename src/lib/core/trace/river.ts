import { placeInColumns } from './river-order.ts';
import type { Direction, Graph } from './graph.ts';
import { sayOrigin } from './traced.ts';

/** What the drawing needs of each mark; `content` only downstream. */
export interface RiverMark {
  id: number;
  product: string;
  kind: 'lot' | 'serial' | 'bulk';
  number: string | null;
  state: 'usable' | 'held' | 'rejected';
  level: number;
  content?: string;
  /** Reached only because the clocks are ignored: drawn apart, and never folded with what is not. */
  beyond?: boolean;
}
export interface RiverEnd {
  partner: string;
  document: string;
  mark: number;
  quantity: string;
}

export interface RiverMaterial {
  direction: Direction;
  roots: readonly number[];
  marks: readonly RiverMark[];
  graph: Graph;
  /** All that ever came in of a mark, as a number: widths need no exactness. */
  totals: ReadonlyMap<number, number>;
  ends: {
    customers: readonly RiverEnd[];
    suppliers: readonly RiverEnd[];
    /** What lay here before Earmark, or was found; left out where there is none. */
    origins?: readonly { kind: string; document: string; mark: number; quantity: string }[];
    onHand: readonly { mark: number; place: string; quantity: string }[];
    scrapped: readonly { mark: number; quantity: string; document: string }[];
  };
  /** Event by which a mark came to be, for folding siblings. */
  bornOf: ReadonlyMap<number, number>;
  /** Keys of bundles that are opened: their marks stand one by one. */
  opened?: ReadonlySet<string>;
}

export interface RiverNode {
  key: string;
  kind: 'supplier' | 'origin' | 'mark' | 'bundle' | 'customer' | 'here' | 'scrapped';
  column: number;
  /** Marks drawn by this node; for an end the marks that end there. */
  marks: number[];
  /** Partner or place code of an end, or what an origin is called; product of a mark or bundle. */
  of: string;
  quantity: number;
  documents: string[];
  x: number;
  y: number;
}

export interface Ribbon {
  from: string;
  to: string;
  weight: number;
  events: number[];
  path: RibbonPath;
}
/**
 * From one stone's right edge to another's left; `via` are the lanes between, where it crosses
 * columns: left ends of a stone's width.
 */
export interface RibbonPath {
  x1: number;
  y1: number;
  x2: number;
  y2: number;
  width: number;
  via: { x: number; y: number }[];
}
export interface River {
  nodes: RiverNode[];
  ribbons: Ribbon[];
  columns: string[];
  width: number;
  height: number;
}

/**
 * Beyond this many siblings of one birth they fold into a bundle; a crowded column folds sooner.
 */
const FOLD = 12,
  CROWDED = 26;
export const NODE = { width: 172, height: 44, gap: 14, column: 214 } as const;
const WIDEST = 56,
  THINNEST = 1.6;

/**
 * Lays a trace out as a river, left to right: suppliers, what came in, each level, what is here and
 * customers.
 * Ribbons are as wide as what they carry: downstream the content of the root, upstream an equal
 * part of each input, since inputs have no common unit. Pure: the same trace gives the same
 * picture.
 */
export function layOutRiver(material: RiverMaterial): River {
  const downstream = material.direction === 'downstream';
  const deepest = Math.max(0, ...material.marks.map((mark) => mark.level));
  const columnOf = (level: number) => 1 + (downstream ? level : deepest - level);
  const lastColumn = deepest + 2;
  const nodes = new Map<string, RiverNode>();
  const nodeOfMark = foldMarks(material, columnOf, nodes);
  const weights = downstream ? contentWeights(material) : equalWeights(material);
  const ribbons = new Map<string, Ribbon>();
  const proving = new Map<Ribbon, Set<number>>(),
    ending = new Map<RiverNode, Set<number>>();
  const flow = (from: string, to: string, weight: number, event: number | null) => {
    if (from === to) return;
    const key = `${from}\n${to}`;
    const ribbon = ribbons.get(key) ?? {
      from,
      to,
      weight: 0,
      events: [],
      path: { x1: 0, y1: 0, x2: 0, y2: 0, width: 0, via: [] }
    };
    ribbon.weight += weight;
    if (event !== null) seen(proving, ribbon, event, ribbon.events);
    ribbons.set(key, ribbon);
  };
  for (const link of weights.links) {
    const from = nodeOfMark.get(link.from),
      to = nodeOfMark.get(link.to);
    if (from && to) flow(from, to, link.weight, link.event);
  }
  const end = (
    kind: RiverNode['kind'],
    of: string,
    column: number,
    mark: number,
    amount: number,
    document: string | null,
    rightwards: boolean
  ) => {
    const key = `${kind} ${of}`;
    const node = nodes.get(key) ?? {
      key,
      kind,
      column,
      marks: [],
      of,
      quantity: 0,
      documents: [],
      x: 0,
      y: 0
    };
    seen(ending, node, mark, node.marks);
    node.quantity += amount;
    if (document !== null && !node.documents.includes(document)) node.documents.push(document);
    nodes.set(key, node);
    const total = material.totals.get(mark) || 1;
    const weight = (weights.of.get(mark) ?? 0) * Math.min(1, amount / total);
    const other = nodeOfMark.get(mark);
    if (other)
      flow(
        rightwards ? other : key,
        rightwards ? key : other,
        rightwards ? weight : (weights.of.get(mark) ?? 0),
        null
      );
  };
  for (const row of material.ends.suppliers)
    end('supplier', row.partner, 0, row.mark, Number(row.quantity), row.document, false);
  for (const row of material.ends.origins ?? [])
    end('origin', sayOrigin(row.kind), 0, row.mark, Number(row.quantity), row.document, false);
  for (const row of material.ends.customers)
    end('customer', row.partner, lastColumn, row.mark, Number(row.quantity), row.document, true);
  for (const row of material.ends.onHand)
    end('here', row.place, lastColumn, row.mark, Number(row.quantity), null, true);
  for (const row of material.ends.scrapped)
    end('scrapped', 'scrapped', lastColumn, row.mark, Number(row.quantity), row.document, true);

  const used = [...new Set([...nodes.values()].map((node) => node.column))].sort((a, b) => a - b);
  for (const node of nodes.values()) node.column = used.indexOf(node.column);
  const list = [...nodes.values()];
  const lines = [...ribbons.values()];
  const whole = downstream
    ? material.roots.reduce((sum, root) => sum + (weights.of.get(root) ?? 0), 0) || 1
    : material.roots.length;
  const height = placeWithLanes(list, lines, whole);
  drawRibbons(list, lines, whole);
  const columns = used.map((column) =>
    column === 0
      ? headingOfSources(list)
      : column === lastColumn
        ? 'Customers and here'
        : levelName(column, downstream, deepest)
  );
  return {
    nodes: list,
    ribbons: lines,
    columns,
    width: used.length * NODE.column - (NODE.column - NODE.width),
    height
  };
}

const headingOfSources = (nodes: readonly RiverNode[]): string =>
  nodes.some((node) => node.kind === 'origin') ? 'Where it came from' : 'Suppliers';

/**
 * A ribbon this wide or wider, as a part of the whole, gets a free lane through the columns it
 * crosses; thinner ones pass behind.
 */
const LANE_FROM = 0.12;

/**
 * Places the stones, keeping a lane free for every wide ribbon that crosses a column. Answers the
 * height needed.
 */
function placeWithLanes(nodes: RiverNode[], ribbons: readonly Ribbon[], whole: number): number {
  const columnOf = new Map(nodes.map((node) => [node.key, node.column]));
  const lanes: { key: string; column: number; x: number; y: number }[] = [];
  const legs = ribbons.flatMap((ribbon) => {
    const first = columnOf.get(ribbon.from)!,
      last = columnOf.get(ribbon.to)!;
    if (last - first < 2 || ribbon.weight / (whole || 1) < LANE_FROM) return [ribbon];
    const own = Array.from({ length: last - first - 1 }, (_, index) => ({
      key: `lane ${ribbon.from}\n${ribbon.to} ${index}`,
      column: first + 1 + index,
      x: 0,
      y: 0
    }));
    lanes.push(...own);
    ribbon.path.via = own;
    const stops = [ribbon.from, ...own.map((lane) => lane.key), ribbon.to];
    return stops.slice(1).map((to, index) => ({ from: stops[index]!, to, weight: ribbon.weight }));
  });
  const height = placeInColumns([...nodes, ...lanes], legs, NODE);
  for (const ribbon of ribbons)
    ribbon.path.via = ribbon.path.via.map(({ x, y }) => ({ x, y: y + NODE.height / 2 }));
  return height;
}

function levelName(column: number, downstream: boolean, deepest: number): string {
  const level = downstream ? column - 1 : deepest - (column - 1);
  return level === 0 ? 'What is traced' : `Level ${level}`;
}

/**
 * Siblings (same level, product and birth) beyond a dozen become one bundle. Answers the node of
 * every mark.
 */
function foldMarks(
  material: RiverMaterial,
  columnOf: (level: number) => number,
  nodes: Map<string, RiverNode>
): Map<number, string> {
  const groups = new Map<string, RiverMark[]>();
  const perLevel = new Map<number, number>();
  for (const mark of material.marks) {
    const birth = material.bornOf.get(mark.id) ?? 0;
    const apart = mark.beyond ? ' beyond' : '';
    const key = `${mark.level} ${mark.product} ${mark.state} ${birth}${apart}`;
    const group = groups.get(key);
    if (group) group.push(mark);
    else groups.set(key, [mark]);
    perLevel.set(mark.level, (perLevel.get(mark.level) ?? 0) + 1);
  }
  const nodeOf = new Map<number, string>();
  for (const [key, marks] of groups) {
    const crowded = perLevel.get(marks[0]!.level)! > CROWDED;
    const fold = marks.length > (crowded ? 2 : FOLD) && !material.opened?.has(`bundle ${key}`);
    for (const part of fold ? [marks] : marks.map((mark) => [mark])) {
      const nodeKey = fold ? `bundle ${key}` : `mark ${part[0]!.id}`;
      nodes.set(nodeKey, {
        key: nodeKey,
        kind: fold ? 'bundle' : 'mark',
        column: columnOf(part[0]!.level),
        marks: part.map((mark) => mark.id),
        of: part[0]!.product,
        quantity: part.reduce((sum, mark) => sum + (material.totals.get(mark.id) ?? 0), 0),
        documents: [],
        x: 0,
        y: 0
      });
      for (const mark of part) nodeOf.set(mark.id, nodeKey);
    }
  }
  return nodeOf;
}

/** Adds a value to a list once; ten thousand of them are not searched for each. */
function seen<K>(sets: Map<K, Set<number>>, key: K, value: number, list: number[]): void {
  let set = sets.get(key);
  if (!set) sets.set(key, (set = new Set(list)));
  if (set.has(value)) return;
  set.add(value);
  list.push(value);
}

interface Weights {
  of: Map<number, number>;
  links: { from: number; to: number; weight: number; event: number }[];
}

/** Downstream: each link carries the part of the root's content that went that way. */
function contentWeights({ marks, graph, totals }: RiverMaterial): Weights {
  const of = new Map(marks.map((mark) => [mark.id, Number(mark.content ?? 0)]));
  const links: Weights['links'] = [];
  for (const { event, inputs, outputs } of graph.transformations) {
    const made = outputs.reduce((sum, output) => sum + Number(output.quantity), 0) || 1;
    for (const input of inputs) {
      const carried =
        (of.get(input.mark) ?? 0) *
        Math.min(1, Number(input.quantity) / (totals.get(input.mark) || 1));
      for (const output of outputs)
        links.push({
          from: input.mark,
          to: output.mark,
          weight: (carried * Number(output.quantity)) / made,
          event
        });
    }
  }
  for (const { lot, serial, event } of graph.members)
    links.push({ from: lot, to: serial, weight: of.get(serial) ?? 0, event });
  for (const { component, host, event } of graph.fittings)
    links.push({ from: component, to: host, weight: of.get(component) ?? 0, event });
  return { of, links };
}

/** Upstream: what comes together in a mark is shared equally among what it came from. */
function equalWeights({ marks, graph, roots }: RiverMaterial): Weights {
  const begins = new Set(roots);
  const into = new Map<number, { from: number; event: number }[]>();
  const push = (to: number, from: number, event: number) => {
    const list = into.get(to);
    if (list) list.push({ from, event });
    else into.set(to, [{ from, event }]);
  };
  for (const { event, inputs, outputs } of graph.transformations)
    for (const output of outputs) for (const input of inputs) push(output.mark, input.mark, event);
  for (const { lot, serial, event } of graph.members) push(serial, lot, event);
  for (const { component, host, event } of graph.fittings) push(host, component, event);
  const of = new Map<number, number>(roots.map((root) => [root, 1]));
  const links: Weights['links'] = [];
  for (const mark of [...marks].sort((a, b) => a.level - b.level)) {
    const sources = into.get(mark.id) ?? [];
    for (const { from, event } of sources) {
      const weight = (of.get(mark.id) ?? 0) / sources.length;
      links.push({ from, to: mark.id, weight, event });
      if (!begins.has(from)) of.set(from, (of.get(from) ?? 0) + weight);
    }
  }
  return { of, links };
}

/** Stacks the ends of ribbons along each node's edge and gives each its width. */
function drawRibbons(nodes: readonly RiverNode[], ribbons: readonly Ribbon[], whole: number): void {
  const byKey = new Map(nodes.map((node) => [node.key, node]));
  for (const ribbon of ribbons)
    ribbon.path.width = Math.max(THINNEST, Math.min(1, ribbon.weight / (whole || 1)) * WIDEST);
  const stack = (
    side: 'from' | 'to',
    other: 'from' | 'to',
    x: 'x1' | 'x2',
    y: 'y1' | 'y2',
    offset: number
  ) => {
    const groups = new Map<string, Ribbon[]>();
    for (const ribbon of ribbons) {
      const group = groups.get(ribbon[side]);
      if (group) group.push(ribbon);
      else groups.set(ribbon[side], [ribbon]);
    }
    // Where a ribbon heads for: its nearest lane, or the stone at its other end.
    const heading = (ribbon: Ribbon): number =>
      (side === 'from' ? ribbon.path.via[0] : ribbon.path.via.at(-1))?.y ??
      byKey.get(ribbon[other])!.y;
    for (const [key, group] of groups) {
      const node = byKey.get(key)!;
      const sum = group.reduce((total, ribbon) => total + ribbon.path.width, 0);
      const squeeze = Math.min(1, (NODE.height - 6) / sum);
      let at = node.y + NODE.height / 2 - (sum * squeeze) / 2;
      for (const ribbon of group.sort((a, b) => heading(a) - heading(b))) {
        ribbon.path[x] = node.x + offset;
        ribbon.path[y] = at + (ribbon.path.width * squeeze) / 2;
        at += ribbon.path.width * squeeze;
      }
    }
  };
  stack('from', 'to', 'x1', 'y1', NODE.width);
  stack('to', 'from', 'x2', 'y2', 0);
}
