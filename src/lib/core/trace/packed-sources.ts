import { Column } from './packed/column.ts';
import { marksOutOfOrder } from './packed/disorder.ts';
import { nodePlace, type OpenLedger } from './packed/open-ledger.ts';
import { OriginSets } from './packed/origin-sets.ts';
import { eventKindCode } from './packed/packed-ledger.ts';
import type { Walker } from './packed/packed-walk.ts';
import type { PackedCut } from './packed/reached.ts';

/**
 * What units share, found in a packed ledger: ids of marks, suppliers, places, people; days in days
 * since 2000-01-01.
 */
export interface PackedSource {
  kind: 'mark' | 'supplier' | 'place' | 'person' | 'day';
  id: number;
  troubled: number;
  population: number;
}

/**
 * The units everything is compared with: all of the same products and kinds, those of them that
 * were ever shipped, or a list.
 */
export type PackedPopulation = 'product' | 'shipped' | readonly number[];

const SHIP = eventKindCode('ship'),
  RECEIVE = eventKindCode('receive'),
  BULK = 3;
const MICROS_A_DAY = 86_400_000_000;

/**
 * Sources that two or more troubled units have, each with how many of the population have it: lots
 * and serials upstream through all levels, suppliers of anything within, and of what brought the
 * unit in first its place, person and day.
 * Which sources a mark has is worked out downstream of them, a set at a time: marks with the same
 * sources share one set, so a million units cost a million look-ups and no million walks. Sets know
 * no clocks: a source that passes through a mark where the order of time matters is counted by a
 * walk of its own.
 * @param most sources of kind mark that are looked at; those most of the troubled share come first
 */
export function packedSources(
  walker: Walker,
  troubled: readonly number[],
  population: PackedPopulation,
  most: number
): { population: number; sources: PackedSource[] } {
  const { ledger } = walker;
  const isTroubled = new Uint8Array(ledger.markBound);
  for (const mark of troubled) isTroubled[mark] = 1;
  const candidates = shared(walker, troubled, most);
  const heldBy = setsOf(
    walker,
    candidates.map((one) => one.mark)
  );
  const disordered = marksOutOfOrder(ledger);
  const isUnit = new Uint8Array(ledger.markBound);
  // How many units have each set of sources, each set of suppliers, and each entry that brought
  // them in; entries from 1 on, 0 is none.
  const bounds = {
    set: heldBy.sets.pool.length,
    origin: ledger.originBound,
    entry: ledger.entryBound + 1
  };
  const counter = () => ({
    set: new Uint32Array(bounds.set),
    origin: new Uint32Array(bounds.origin),
    entry: new Uint32Array(bounds.entry)
  });
  const counts = counter(),
    illOf = counter();
  let units = 0;
  const take = (mark: number): void => {
    units++;
    isUnit[mark] = 1;
    const set = heldBy.set[mark]!,
      origin = ledger.originOf(mark),
      entry = 1 + ledger.firstIn(mark);
    counts.set[set]!++;
    counts.origin[origin]!++;
    counts.entry[entry]!++;
    if (isTroubled[mark] === 0) return;
    illOf.set[set]!++;
    illOf.origin[origin]!++;
    illOf.entry[entry]!++;
  };
  eachUnit();

  const sources: PackedSource[] = [];
  const holding = new Array<number>(candidates.length).fill(0);
  counts.set.forEach((count, set) => {
    if (count > 0) for (const candidate of heldBy.sets.members(set)) holding[candidate]! += count;
  });
  const doubtful = new Set(
    disordered.flatMap((mark) => [...heldBy.sets.members(heldBy.set[mark]!)])
  );
  for (const n of doubtful) holding[n] = countWithin([candidates[n]!.mark], {}, isUnit);
  candidates.forEach((one, n) => {
    sources.push({
      kind: 'mark',
      id: one.mark,
      troubled: one.troubled,
      population: Math.max(one.troubled, holding[n]!)
    });
  });
  const spread = (
    kind: PackedSource['kind'],
    all: Uint32Array,
    ill: Uint32Array,
    idsOf: (at: number) => Iterable<number>
  ): void => {
    const sums = new Map<number, { troubled: number; population: number }>();
    all.forEach((count, at) => {
      if (count === 0) return;
      for (const id of idsOf(at)) {
        const sum = sums.get(id) ?? { troubled: 0, population: 0 };
        sum.population += count;
        sum.troubled += ill[at]!;
        sums.set(id, sum);
      }
    });
    for (const [id, sum] of sums) if (sum.troubled >= 2) sources.push({ kind, id, ...sum });
  };
  spread('supplier', counts.origin, illOf.origin, (origin) => ledger.suppliers(origin));
  recountSuppliers();
  const ofEntry = (read: (entry: number) => number) => (at: number) =>
    at === 0 ? [] : [read(at - 1)];
  spread(
    'place',
    counts.entry,
    illOf.entry,
    ofEntry((entry) => ledger.entryPlace(entry))
  );
  spread(
    'person',
    counts.entry,
    illOf.entry,
    ofEntry((entry) => ledger.eventPerson(ledger.entryEvent(entry)))
  );
  spread(
    'day',
    counts.entry,
    illOf.entry,
    ofEntry((entry) => Math.floor(ledger.eventAt(ledger.entryEvent(entry)) / MICROS_A_DAY))
  );
  return { population: units, sources };

  function countWithin(roots: readonly number[], cut: PackedCut, within: Uint8Array): number {
    const { marks, isInAtTheEnd } = walker.walk(roots, 'downstream', cut, {
      wholeRoots: false
    });
    let count = 0;
    for (let n = 0; n < marks.length; n++) {
      const mark = marks.data[n]!;
      if (within[mark] === 1 && isInAtTheEnd(mark)) count++;
    }
    return count;
  }

  /**
   * Suppliers whose goods pass through marks where the order of time matters, or a delivery of whom
   * was taken back.
   */
  function recountSuppliers(): void {
    const suspect = new Set([
      ...disordered.flatMap((mark) => [...ledger.suppliers(ledger.originOf(mark))]),
      ...ledger.undoneEvents().map((event) => ledger.eventPartner(event))
    ]);
    const ofSuppliers = sources.filter((one) => one.kind === 'supplier' && suspect.has(one.id));
    if (ofSuppliers.length === 0) return;
    const received = receivedFrom(ledger, new Set(ofSuppliers.map((one) => one.id)));
    for (const source of ofSuppliers) {
      const { marks, events } = received.get(source.id) ?? { marks: [], events: [] };
      source.population = countWithin(marks, { from: events }, isUnit);
      source.troubled = countWithin(marks, { from: events }, isTroubled);
    }
    const kept = sources.filter((one) => one.kind !== 'supplier' || one.troubled >= 2);
    sources.splice(0, sources.length, ...kept);
  }

  function eachUnit(): void {
    if (typeof population !== 'string') {
      for (const mark of new Set([...population, ...troubled]))
        if (ledger.markWord(mark) > 0) take(mark);
      return;
    }
    const words = troubled
      .map((mark) => ledger.markWord(mark))
      .filter((word) => word > 0 && word % 4 !== BULK);
    const wanted = new Uint8Array(words.reduce((largest, word) => Math.max(largest, word), 0) + 1);
    for (const word of words) wanted[word] = 1;
    for (let mark = 1; mark < ledger.markBound; mark++) {
      if (
        wanted[ledger.markWord(mark)] === 1 &&
        (population === 'product' || isTroubled[mark] === 1 || wasShipped(ledger, mark))
      )
        take(mark);
    }
  }
}

/** Whether any of a mark ever left to a customer, by a shipment that stands. */
function wasShipped(ledger: OpenLedger, mark: number): boolean {
  if (!ledger.hasEntryOf(mark, SHIP)) return false;
  const entries = new Column();
  ledger.entriesOf(mark, entries);
  const undone = ledger.takenBackIn(entries, () => true);
  if (undone.size === 0) return true;
  return [...entries.data.slice(0, entries.length)].some((entry) => {
    const event = ledger.entryEvent(entry);
    return ledger.eventKind(event) === SHIP && !undone.has(event);
  });
}

/** What was received from suppliers, and by which events. */
function receivedFrom(
  ledger: OpenLedger,
  suppliers: ReadonlySet<number>
): Map<number, { marks: number[]; events: number[] }> {
  const found = new Map<number, { marks: Set<number>; events: Set<number> }>();
  const entries = new Column();
  for (let mark = 1; mark < ledger.markBound; mark++) {
    ledger.entriesOf(mark, entries);
    const undone = ledger.takenBackIn(entries, () => true);
    for (let n = 0; n < entries.length; n++) {
      const event = ledger.entryEvent(entries.data[n]!),
        partner = ledger.eventPartner(event);
      if (!suppliers.has(partner) || ledger.eventKind(event) !== RECEIVE) continue;
      if (undone.has(event)) continue;
      const of = found.get(partner) ?? { marks: new Set(), events: new Set() };
      found.set(partner, of);
      of.marks.add(mark);
      of.events.add(event);
    }
  }
  return new Map(
    [...found].map(([id, { marks, events }]) => [id, { marks: [...marks], events: [...events] }])
  );
}

/**
 * Lots and serials upstream of two or more of the troubled, those that most of them share first.
 */
function shared(
  walker: Walker,
  troubled: readonly number[],
  most: number
): { mark: number; troubled: number }[] {
  const counts = new Map<number, number>();
  for (const unit of troubled) {
    const { marks } = walker.walk([unit], 'upstream', {}, { pullIn: false });
    for (let n = 1; n < marks.length; n++)
      counts.set(marks.data[n]!, (counts.get(marks.data[n]!) ?? 0) + 1);
  }
  return [...counts]
    .filter(([mark, count]) => count >= 2 && walker.ledger.markWord(mark) % 4 !== BULK)
    .map(([mark, count]) => ({ mark, troubled: count }))
    .sort((a, b) => b.troubled - a.troubled || a.mark - b.mark)
    .slice(0, most);
}

/**
 * Which of the candidates each mark downstream of them holds: by mark a place in `sets`. A mark is
 * looked at again only where its set grew, so loops end.
 */
function setsOf(
  walker: Walker,
  candidates: readonly number[]
): { set: Uint32Array; sets: OriginSets } {
  const { ledger } = walker;
  const sets = new OriginSets(),
    set = new Uint32Array(ledger.markBound);
  const reached = walker.walk(candidates, 'downstream', { clocks: 'ignore' });
  const inTrace = new Uint8Array(ledger.nodeBound);
  for (let n = 0; n < reached.nodes.length; n++) inTrace[reached.nodes.data[n]!] = 1;
  candidates.forEach((mark, n) => {
    set[mark] = sets.of([n]);
  });
  const waiting = new Column(reached.marks.length),
    queued = new Uint8Array(ledger.markBound),
    list = new Column(),
    node = nodePlace();
  for (let n = 0; n < reached.marks.length; n++) {
    waiting.push(reached.marks.data[n]!);
    queued[reached.marks.data[n]!] = 1;
  }
  for (let next = 0; next < waiting.length; next++) {
    const mark = waiting.data[next]!;
    queued[mark] = 0;
    ledger.nodesDown(mark, list);
    for (let n = 0; n < list.length; n++) {
      if (inTrace[list.data[n]!] === 0) continue;
      ledger.load(list.data[n]!, node);
      for (let o = 0; o < node.outs; o++) {
        const other = node.outputs[node.outAt + o]!,
          union = sets.union(set[other]!, set[mark]!);
        if (union === set[other]) continue;
        set[other] = union;
        if (queued[other] === 0) {
          queued[other] = 1;
          waiting.push(other);
        }
      }
    }
  }
  return { set, sets };
}
