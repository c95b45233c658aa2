import { groupBy } from '../group-by.ts';
import { formatQuantity, quantity } from '../quantity/quantity.ts';
import {
  ORIGIN_KINDS,
  type OriginEnd,
  type PartnerEnd,
  type PlaceEnd,
  type ScrapEnd,
  type TracedEvent,
  type TraceMaterial
} from './traced.ts';

/** Where what was traced ended up, and where it came from. */
export interface Ends {
  customers: PartnerEnd[];
  onHand: PlaceEnd[];
  scrapped: ScrapEnd[];
  suppliers: PartnerEnd[];
  /** What came from nobody: it lay here before Earmark, or was found. */
  origins: OriginEnd[];
}
/** An event with what it did to the marks of a trace. */
export type EventWithLines = Omit<TracedEvent, 'undoes' | 'undone' | 'happened'> & {
  lines: { mark: number; place: string | null; quantity: string }[];
};

/** What is asked of the ends and events of a trace that has been walked. */
export interface Asked {
  material: TraceMaterial;
  events: ReadonlyMap<number, TracedEvent>;
  levels: ReadonlyMap<number, number>;
  counts: (mark: number, event: number) => boolean;
  rootMarks: ReadonlySet<number>;
  /** What reversals took back of marks, as `takenBack` finds it. */
  undone: ReadonlySet<string>;
}

/** What reversals took back of marks, as `mark event`: it did not come, go or break after all. */
export function takenBack(
  material: TraceMaterial,
  events: ReadonlyMap<number, TracedEvent>
): ReadonlySet<string> {
  const undone = new Set<string>();
  for (const { mark, event } of material.movements) {
    const back = events.get(event)!.undone;
    if (back != null) undone.add(`${mark} ${back}`);
  }
  return undone;
}

/** Who has the marks, and who has some of them that left before any of it came. */
export function customersOf(
  { material, events, levels, counts, rootMarks, undone }: Asked,
  tied: readonly number[]
): { reached: PartnerEnd[]; cleared: PartnerEnd[] } {
  const downstream = material.direction === 'downstream';
  const isEnd = new Set(downstream ? tied : rootMarks);
  const ends: PartnerEnd[] = [];
  const back: { event: number; partner: string; mark: number; quantity: string }[] = [];
  for (const movement of material.movements) {
    if (undone.has(`${movement.mark} ${movement.event}`)) continue;
    const event = events.get(movement.event)!;
    const partner = event.partner ?? '';
    if (event.kind === 'return') back.push({ ...movement, partner });
    if (event.kind !== 'ship' || !isEnd.has(movement.mark)) continue;
    ends.push({
      partner,
      document: event.document,
      at: event.at,
      mark: movement.mark,
      quantity: unsigned(movement.quantity),
      event: event.id
    });
  }
  const left = lessReturned(ends, back);
  const belongs = ({ mark, event }: { mark: number; event: number }) =>
    levels.has(mark) && counts(mark, event);
  return {
    reached: left.filter(belongs),
    cleared: left.filter((end) => !belongs(end))
  };
}

export function otherEnds({
  material,
  events,
  levels,
  counts,
  rootMarks,
  undone
}: Asked): Omit<Ends, 'customers'> {
  const downstream = material.direction === 'downstream';
  const isEnd = (mark: number) => (downstream ? levels.has(mark) : rootMarks.has(mark));
  const ends: Omit<Ends, 'customers'> = {
    onHand: material.stock.filter((row) => isEnd(row.mark)),
    scrapped: [],
    suppliers: [],
    origins: []
  };
  const left = leftByCounts(material, events);
  for (const { mark, event: id, place, quantity: text } of material.movements) {
    if (undone.has(`${mark} ${id}`)) continue;
    const { kind, document, at, partner } = events.get(id)!;
    const amount = unsigned(text);
    if (kind === 'scrap' && isEnd(mark) && counts(mark, id))
      ends.scrapped.push({ mark, place, quantity: amount, document, at });
    const origin = ORIGIN_KINDS.has(kind) && !text.startsWith('-') && !left.has(`${mark} ${id}`);
    if (kind !== 'receive' && !origin) continue;
    const asked = downstream
      ? rootMarks.has(mark) && (material.from?.has(id) ?? true)
      : levels.has(mark) && counts(mark, id);
    if (!asked) continue;
    if (origin) ends.origins.push({ event: id, kind, document, at, mark, place, quantity: amount });
    else
      ends.suppliers.push({
        event: id,
        partner: partner ?? '',
        document,
        at,
        mark,
        quantity: amount
      });
  }
  return ends;
}

/** What counts took away of marks, as `mark event`: they may find a thing at another place. */
function leftByCounts(
  { movements }: TraceMaterial,
  events: ReadonlyMap<number, TracedEvent>
): ReadonlySet<string> {
  const left = new Set<string>();
  for (const { mark, event, quantity: text } of movements)
    if (text.startsWith('-') && events.get(event)!.kind === 'count') left.add(`${mark} ${event}`);
  return left;
}

/**
 * What customers still have: what came back is taken off the latest shipments of that mark to them
 * that were booked before it came.
 */
export function lessReturned<End extends PartnerEnd>(
  shipped: readonly End[],
  returned: readonly { event: number; partner: string; mark: number; quantity: string }[]
): End[] {
  if (returned.length === 0) return [...shipped];
  const key = ({ mark, partner }: { mark: number; partner: string }) => `${mark} ${partner}`;
  const left = shipped.map((end) => ({ end, quantity: quantity(end.quantity) }));
  const shipments = groupBy(
    [...left].sort((a, b) => b.end.event - a.end.event),
    ({ end }) => key(end)
  );
  for (const back of [...returned].sort((a, b) => a.event - b.event)) {
    let open = quantity(back.quantity);
    for (const one of shipments.get(key(back)) ?? []) {
      if (one.end.event > back.event || open.isZero()) continue;
      const taken = open.lt(one.quantity) ? open : one.quantity;
      one.quantity = one.quantity.minus(taken);
      open = open.minus(taken);
    }
  }
  return left
    .filter((one) => !one.quantity.isZero())
    .map((one) => ({ ...one.end, quantity: formatQuantity(one.quantity) }));
}

const unsigned = (amount: string): string => (amount.startsWith('-') ? amount.slice(1) : amount);

/** The events of the marks reached, in time order: those in which the traced goods were in them. */
export function eventsWithLines({ material, events, levels, counts }: Asked): EventWithLines[] {
  const lines = new Map<number, EventWithLines['lines']>();
  const push = (event: number, line: { mark: number; place: string | null; quantity: string }) => {
    if (!levels.has(line.mark) || !counts(line.mark, event)) return;
    const of = lines.get(event);
    if (of) of.push(line);
    else lines.set(event, [line]);
  };
  for (const { event, mark, place, quantity: amount } of material.movements)
    push(event, { mark, place, quantity: amount });
  for (const { event, mark } of material.changes) push(event, { mark, place: null, quantity: '0' });
  return [...events.values()]
    .filter((event) => lines.has(event.id))
    .sort((a, b) => a.happened - b.happened || a.id - b.id)
    .map(({ undoes: _, undone: __, happened: ___, ...event }) => ({
      ...event,
      lines: lines.get(event.id) ?? []
    }));
}
