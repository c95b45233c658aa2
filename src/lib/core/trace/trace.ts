import { groupBy } from '../group-by.ts';
import { formatQuantity, totalOf, type Quantity } from '../quantity/quantity.ts';
import { BEGINNING, earliest, latest, type Clock } from './clock.ts';
import { contentInTime } from './content-in-time.ts';
import {
  customersOf,
  eventsWithLines,
  otherEnds,
  type Asked,
  type Ends,
  type EventWithLines,
  takenBack
} from './ends.ts';
import type { Graph } from './graph.ts';
import { massBalance, openCauses, type Balance } from './mass-balance.ts';
import type { Presence } from './presence.ts';
import type { PartnerEnd, TracedEvent, TracedMovement, TraceMaterial } from './traced.ts';
import { walk } from './walk.ts';
import { prepareWalk, walkInTime, type PreparedWalk, type WalkedInTime } from './walk-in-time.ts';

export type * from './traced.ts';

/** What the clocks cleared: marks that a lot-level view would have reached, and who got them. */
export interface Cleared {
  marks: number[];
  customers: PartnerEnd[];
}

export interface TraceFindings {
  levels: Map<number, number>;
  /** What was gone through. */
  graph: Graph;
  cleared: Cleared;
  /** The clock that content was carried by; null where none was. */
  contentBy: 'happened' | 'booked' | null;
  /** Only downstream: how much of the root is in each mark, as a decimal string. */
  content: Map<number, string> | null;
  events: EventWithLines[];
  ends: Ends;
  /** Of each root, in their order. */
  balances: (Balance & { mark: number; /** Why it is open, in words. */ causes: string[] })[];
}

/**
 * Works out the answer of a trace from what was read: levels, content, events in time order, ends
 * and the balance of every root, by both clocks; what they cleared is said beside it.
 * Downstream the ends are those of every mark reached, and the suppliers those of the roots;
 * upstream it is the other way round, for what became of the rest of a component lot is another
 * question.
 */
export function traceFindings(material: TraceMaterial): TraceFindings {
  const { direction, roots } = material;
  const tied = walk(material.graph, roots, direction, material.rootSerials);
  const events = new Map(material.events.map((event) => [event.id, event]));
  const movementsOf = groupBy(material.movements, (movement) => movement.mark);
  const stockOf = groupBy(material.stock, (row) => row.mark);
  const prepared = prepareWalk(material.graph, material.hosts, direction, singles(material));
  const obeyed = material.clocks === 'obey' ? inTime(material, events, prepared) : null;
  const { levels, graph, counts }: WalkedInTime = obeyed ?? {
    levels: tied,
    graph: material.graph,
    counts: () => true
  };
  const ownOf = ownMarks(material.graph);
  const rootMarks = new Set(roots.flatMap((root) => [...ownOf(root)]));
  const undone = takenBack(material, events);
  const asked: Asked = { material, events, levels, counts, rootMarks, undone };
  const shipped = customersOf(asked, [...tied.keys()]);
  const content =
    direction === 'downstream' && material.content
      ? contentFound(material, graph, prepared.stays, levels, rootMarks)
      : null;
  return {
    levels,
    graph,
    cleared: {
      marks: [...tied.keys()].filter((mark) => !levels.has(mark)),
      customers: shipped.cleared
    },
    content: content?.amounts ?? null,
    contentBy: content?.by ?? null,
    events: eventsWithLines(asked),
    ends: { customers: shipped.reached, ...otherEnds(asked) },
    balances: roots.map((root) => {
      const own = [...ownOf(root)];
      const moved = own.flatMap((mark) => movementsOf.get(mark) ?? []),
        stock = own.flatMap((mark) => stockOf.get(mark) ?? []);
      return balanceOf(root, moved, stock, material.rootUsed.get(root) ?? '0', events);
    })
  };
}

/** A root with the serials that are within it and nothing else of it. */
function ownMarks(graph: Graph): (root: number) => Set<number> {
  const membersOf = groupBy(graph.members, (member) => member.lot);
  return (root) => new Set([root, ...(membersOf.get(root) ?? []).map((member) => member.serial)]);
}

function inTime(
  material: TraceMaterial,
  events: ReadonlyMap<number, TracedEvent>,
  prepared: PreparedWalk
): WalkedInTime {
  const { direction, graph, roots, rootSerials } = material;
  const clockOf = (event: number): Clock => {
    const found = events.get(event);
    return found ? { happened: found.happened, booked: event } : BEGINNING;
  };
  return walkInTime({
    graph,
    hosts: material.hosts,
    prepared,
    roots,
    direction,
    clockOf,
    start: startsOf(material, clockOf),
    single: singles(material),
    ...(rootSerials ? { serialsOf: rootSerials } : {})
  });
}

function singles({ marks }: TraceMaterial): (mark: number) => boolean {
  const serials = new Set(marks.flatMap((mark) => (mark.kind === 'serial' ? mark.id : [])));
  return (mark) => serials.has(mark);
}

/** Where each root starts: with the outermost of the events it is asked from. */
function startsOf(
  { from, roots, movements, direction }: TraceMaterial,
  clockOf: (event: number) => Clock
): Map<number, Clock> {
  const starts = new Map<number, Clock>();
  if (from === null) return starts;
  const isRoot = new Set(roots);
  const outer = direction === 'downstream' ? earliest : latest;
  for (const { mark, event } of movements) {
    if (!from.has(event) || !isRoot.has(mark)) continue;
    const known = starts.get(mark),
      at = clockOf(event);
    starts.set(mark, known ? outer(known, at) : at);
  }
  return starts;
}

function balanceOf(
  root: number,
  movements: readonly TracedMovement[],
  stock: readonly { quantity: string }[],
  used: string,
  events: ReadonlyMap<number, TracedEvent>
): TraceFindings['balances'][number] {
  const moved = movements.map((movement) => ({
    kind: events.get(movement.event)!.kind,
    quantity: movement.quantity,
    undoes: events.get(movement.event)!.undoes ?? null
  }));
  const here = totalOf(stock.map((row) => row.quantity));
  const balance = massBalance(moved, here, used);
  const causes = balance.open === '0' ? [] : openCauses(moved, here, used);
  return { mark: root, ...balance, causes };
}

function contentFound(
  material: TraceMaterial,
  graph: Graph,
  presences: ReadonlyMap<number, Presence>,
  levels: ReadonlyMap<number, number>,
  own: ReadonlySet<number>
): { amounts: Map<number, string>; by: 'happened' | 'booked' } {
  const unitOf = new Map(material.marks.map((mark) => [mark.id, mark.unit]));
  const { content, by } = contentInTime({
    graph,
    presences,
    marks: new Set(levels.keys()),
    own,
    from: material.from,
    single: singles(material),
    events: material.events.map((event) => ({ ...event, undone: event.undone ?? null })),
    movements: material.movements,
    unitOf: (mark) => unitOf.get(mark) ?? ''
  });
  // Rounded to twenty places first: what division cut off far behind cannot turn a half.
  const write = (amount: Quantity): string =>
    formatQuantity(amount.toDecimalPlaces(20).toDecimalPlaces(12));
  return { by, amounts: new Map([...content].map(([mark, amount]) => [mark, write(amount)])) };
}
