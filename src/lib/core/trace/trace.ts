import { groupBy } from '../group-by.ts';
import type { MarkKind } from '../catalogue/marking.ts';
import { formatQuantity, quantity, totalOf, ZERO, type Quantity } from '../quantity/quantity.ts';
import { contentOf } from './content.ts';
import type { Direction, Graph } from './graph.ts';
import { everCameIn, massBalance, openCauses, type Balance } from './mass-balance.ts';
import { walk } from './walk.ts';

export interface TracedMark {
  id: number;
  kind: MarkKind;
  unit: string;
}
export interface TracedMovement {
  event: number;
  mark: number;
  place: string;
  quantity: string;
}
/** `at` is an instant in ISO form. */
export interface TracedEvent {
  id: number;
  kind: string;
  document: string;
  partner: string | null;
  at: string;
  /** Who booked it. */ by: string;
  /** The kind a reversal took back. */ undoes?: string | null;
}

/** Everything read from the ledger around the roots. */
export interface TraceMaterial {
  direction: Direction;
  roots: readonly number[];
  marks: readonly TracedMark[];
  graph: Graph;
  movements: readonly TracedMovement[];
  /** Marks whose state or dates an event changed without moving them. */
  changes: readonly { event: number; mark: number }[];
  events: readonly TracedEvent[];
  stock: readonly { mark: number; place: string; quantity: string }[];
  /** What transformations took of each root and of the serials within it. */
  rootUsed: ReadonlyMap<number, string>;
  /** The serials within root lots, those too that got their number out of the lot's own stock. */
  rootSerials?: ReadonlyMap<number, readonly number[]>;
}

export interface PartnerEnd {
  partner: string;
  document: string;
  at: string;
  mark: number;
  quantity: string;
}
export interface PlaceEnd {
  mark: number;
  place: string;
  quantity: string;
}
export interface ScrapEnd extends PlaceEnd {
  document: string;
  at: string;
}

export interface TraceFindings {
  levels: Map<number, number>;
  /** Only downstream: how much of the root is in each mark, as a decimal string. */
  content: Map<number, string> | null;
  events: (TracedEvent & { lines: { mark: number; place: string | null; quantity: string }[] })[];
  ends: {
    customers: PartnerEnd[];
    onHand: PlaceEnd[];
    scrapped: ScrapEnd[];
    suppliers: PartnerEnd[];
  };
  /** Of each root, in their order. */
  balances: (Balance & { mark: number; /** Why it is open, in words. */ causes: string[] })[];
}

/**
 * Works out the answer of a trace from what was read: levels, content, events in time order, ends
 * and the balance of every root.
 * Downstream the ends are those of every mark reached, and the suppliers those of the roots;
 * upstream it is the other way round, for what became of the rest of a component lot is another
 * question.
 */
export function traceFindings(material: TraceMaterial): TraceFindings {
  const { direction, roots, graph } = material;
  const levels = walk(graph, roots, direction, material.rootSerials);
  const unitOf = new Map(material.marks.map((mark) => [mark.id, mark.unit]));
  const events = new Map(material.events.map((event) => [event.id, event]));
  const movementsOf = groupBy(material.movements, (movement) => movement.mark);
  const membersOf = groupBy(graph.members, (member) => member.lot);
  const ownOf = (root: number) =>
    new Set([root, ...(membersOf.get(root) ?? []).map((member) => member.serial)]);
  const rootMarks = new Set(roots.flatMap((root) => [...ownOf(root)]));

  const withKind = (mark: number) =>
    (movementsOf.get(mark) ?? []).map((movement) => ({
      kind: events.get(movement.event)!.kind,
      quantity: movement.quantity,
      undoes: events.get(movement.event)!.undoes
    }));
  const stockOf = groupBy(material.stock, (row) => row.mark);
  const balances = roots.map((root) => {
    const own = [...ownOf(root)];
    const moved = own.flatMap(withKind),
      here = totalOf(own.flatMap((mark) => stockOf.get(mark) ?? []).map((row) => row.quantity)),
      used = material.rootUsed.get(root) ?? '0';
    const balance = massBalance(moved, here, used);
    return {
      mark: root,
      ...balance,
      causes: balance.open === '0' ? [] : openCauses(moved, here, used)
    };
  });

  const downstream = direction === 'downstream';
  const endMarks = downstream ? null : rootMarks; // null: all
  const ends: TraceFindings['ends'] = { customers: [], onHand: [], scrapped: [], suppliers: [] };
  for (const movement of material.movements) {
    const event = events.get(movement.event)!;
    const isEnd = endMarks === null || endMarks.has(movement.mark);
    const amount = unsigned(movement.quantity);
    if (event.kind === 'ship' && isEnd)
      ends.customers.push({
        partner: event.partner ?? '',
        document: event.document,
        at: event.at,
        mark: movement.mark,
        quantity: amount
      });
    if (event.kind === 'scrap' && isEnd)
      ends.scrapped.push({
        mark: movement.mark,
        place: movement.place,
        quantity: amount,
        document: event.document,
        at: event.at
      });
    if (event.kind === 'receive' && (!downstream || rootMarks.has(movement.mark)))
      ends.suppliers.push({
        partner: event.partner ?? '',
        document: event.document,
        at: event.at,
        mark: movement.mark,
        quantity: amount
      });
  }
  ends.customers = lessReturned(
    ends.customers,
    material.movements.flatMap((movement) => {
      const event = events.get(movement.event)!;
      return event.kind === 'return'
        ? [{ partner: event.partner ?? '', mark: movement.mark, quantity: movement.quantity }]
        : [];
    })
  );
  for (const row of material.stock)
    if (endMarks === null || endMarks.has(row.mark)) ends.onHand.push(row);

  return {
    levels,
    content: downstream ? rootContent() : null,
    events: eventsWithLines(material, events),
    ends,
    balances
  };

  function rootContent(): Map<number, string> {
    const totals = new Map<number, Quantity>();
    const totalOfMark = (mark: number): Quantity => {
      let known = totals.get(mark);
      if (!known) {
        known = everCameIn(withKind(mark));
        for (const { serial } of membersOf.get(mark) ?? [])
          known = known.plus(everCameIn(withKind(serial)));
        totals.set(mark, known);
      }
      return known;
    };
    const content = contentOf(
      graph,
      new Map(roots.map((root) => [root, totalOfMark(root)])),
      totalOfMark,
      (mark) => unitOf.get(mark) ?? ''
    );
    // Many marks share one amount: write each out once. Rounded to twenty places first, what
    // division cut off far behind cannot turn a half.
    const written = new Map<Quantity, string>();
    const write = (amount: Quantity): string => {
      let text = written.get(amount);
      if (text === undefined)
        written.set(
          amount,
          (text = formatQuantity(amount.toDecimalPlaces(20).toDecimalPlaces(12)))
        );
      return text;
    };
    return new Map([...content].map(([mark, amount]) => [mark, write(amount)]));
  }
}

/**
 * How much of a mark is still where the trace ends with it: its whole content less the part that
 * went on into something else.
 * Summed over all marks of a downstream trace this is the root's own total, which is how the trace
 * is shown to be complete.
 */
export function contentLeft(
  graph: Graph,
  content: ReadonlyMap<number, Quantity>,
  totals: (mark: number) => Quantity
): Map<number, Quantity> {
  const passedOn = new Map<number, Quantity>();
  const pass = (mark: number, amount: Quantity) =>
    passedOn.set(mark, (passedOn.get(mark) ?? ZERO).plus(amount));
  for (const transformation of graph.transformations)
    for (const input of transformation.inputs) pass(input.mark, quantity(input.quantity));
  for (const member of graph.members) pass(member.lot, quantity(1));
  for (const fitting of graph.fittings) pass(fitting.component, quantity(fitting.quantity));
  return new Map(
    [...content].map(([mark, amount]) => {
      const whole = totals(mark);
      return [
        mark,
        whole.isZero() ? amount : amount.minus(amount.times(passedOn.get(mark) ?? ZERO).div(whole))
      ];
    })
  );
}

/** What customers still have: what came back is taken off their latest shipments of that mark. */
export function lessReturned(
  shipped: readonly PartnerEnd[],
  returned: readonly { partner: string; mark: number; quantity: string }[]
): PartnerEnd[] {
  if (returned.length === 0) return [...shipped];
  const back = new Map<string, Quantity>();
  for (const { partner, mark, quantity: amount } of returned)
    back.set(`${mark} ${partner}`, (back.get(`${mark} ${partner}`) ?? ZERO).plus(amount));
  const left = [...shipped]
    .sort((a, b) => (a.at < b.at ? 1 : a.at > b.at ? -1 : 0))
    .map((end) => {
      const open = back.get(`${end.mark} ${end.partner}`);
      if (!open || open.isZero()) return end;
      const taken = open.lt(end.quantity) ? open : quantity(end.quantity);
      back.set(`${end.mark} ${end.partner}`, open.minus(taken));
      return { ...end, quantity: formatQuantity(quantity(end.quantity).minus(taken)) };
    });
  return left.filter((end) => end.quantity !== '0').reverse();
}

const unsigned = (amount: string): string => (amount.startsWith('-') ? amount.slice(1) : amount);

function eventsWithLines(
  material: TraceMaterial,
  events: ReadonlyMap<number, TracedEvent>
): TraceFindings['events'] {
  const lines = new Map<number, TraceFindings['events'][number]['lines']>();
  const push = (event: number, line: { mark: number; place: string | null; quantity: string }) => {
    const list = lines.get(event);
    if (list) list.push(line);
    else lines.set(event, [line]);
  };
  for (const { event, mark, place, quantity: amount } of material.movements)
    push(event, { mark, place, quantity: amount });
  for (const { event, mark } of material.changes) push(event, { mark, place: null, quantity: '0' });
  return [...events.values()]
    .sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : a.id - b.id))
    .map(({ undoes: _, ...event }) => ({ ...event, lines: lines.get(event.id) ?? [] }));
}
