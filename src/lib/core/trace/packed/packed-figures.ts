import { kindsThat } from '../../ledger/event-kinds.ts';
import { openCauses, type Balance } from '../mass-balance.ts';
import type { Direction } from '../graph.ts';
import { groupBy } from '../../group-by.ts';
import { Amounts } from './amount-texts.ts';
import { Column } from './column.ts';
import { sayContent, sayMicro } from './amounts.ts';
import { packedContent } from './packed-content.ts';
import { KIND_OF_CODE, eventKindCode } from './packed-ledger.ts';
import { nodePlace, type OpenLedger } from './open-ledger.ts';
import type { Walker } from './packed-walk.ts';
import { LyingAt } from './lying-at.ts';
import { Ends, type PackedEnds } from './packed-ends.ts';
import type { PackedCut, Reached } from './reached.ts';
import { ORIGIN_KINDS } from '../traced.ts';

export interface PackedFigures {
  /**
   * Content by place in the walk, as a place in `contents`; null upstream, and where products are
   * left out.
   */
  content: Uint32Array | null;
  contents: string[];
  /** The clock content was carried by; null where none was. */
  contentBy: 'happened' | 'booked' | null;
  /** Who got what the clocks cleared. */
  clearedCustomers: PackedEnds;
  /** On hand by place in the walk, as a place in `amounts`. */
  onHand: Uint32Array;
  ends: Record<'customers' | 'onHand' | 'scrapped' | 'suppliers' | 'origins', PackedEnds>;
  amounts: string[];
  /** Of each root, in the order of the walk. */
  balances: (Balance & { mark: number; causes: string[] })[];
}

const SHIP = eventKindCode('ship'),
  SCRAP = eventKindCode('scrap'),
  RECEIVE = eventKindCode('receive'),
  RETURN = eventKindCode('return'),
  REVERSAL = eventKindCode('reversal');
const flags = (kinds: ReadonlySet<string>): Uint8Array =>
  Uint8Array.from(KIND_OF_CODE, (kind) => (kinds.has(kind) ? 1 : 0));
const MAKES = flags(kindsThat('makes')),
  CORRECTS = flags(kindsThat('corrects')),
  ORIGINS = flags(ORIGIN_KINDS);

/**
 * The figures of a trace: content, ends, on hand and the balance of every root, as
 * core/trace/trace.ts finds them, from a packed ledger. Downstream the ends are those of every
 * mark reached and suppliers those of the roots; upstream the other way round.
 * @param cleared marks that the clocks cleared
 * @param roots how many of the marks reached are roots; they come first
 * @param unitOf a number for the unit of a product
 */
export function packedFigures(
  walker: Walker,
  reached: Reached,
  cleared: Uint32Array,
  roots: number,
  direction: Direction,
  cut: PackedCut,
  unitOf: (product: number) => number
): PackedFigures {
  const { ledger } = walker;
  const { marks } = reached;
  const { until } = cut;
  const down = direction === 'downstream';
  const entries = new Column(),
    amounts = new Amounts();
  const happened = (event: number) => until === undefined || ledger.eventAt(event) <= until;

  const rootMarks = new Uint8Array(marks.length);
  const own = Array.from({ length: roots }, (_, place) => {
    const root = marks.data[place]!;
    // What the transformations say counts the cut of kinds out: it is a question of the root alone.
    const members =
      ledger.markWord(root) % 4 === 1 ? walker.holding.membersOf(root, until, false) : [];
    rootMarks[place] = 1;
    for (const member of members)
      if (reached.placeOf[member]! > 0) rootMarks[reached.placeOf[member]! - 1] = 1;
    return [root, ...members];
  });

  const asked = cut.from ? new Set(cut.from) : null;
  const customers = new Ends(),
    clearedCustomers = new Ends(),
    here = new Ends(),
    scrapped = new Ends(),
    suppliers = new Ends(),
    origins = new Ends();
  const onHand = new Uint32Array(marks.length);
  const shipped: Shipped[] = [],
    returned: Returned[] = [];
  const lying = new LyingAt();
  for (let place = 0; place < marks.length; place++) {
    const mark = marks.data[place]!,
      isEnd = down || rootMarks[place] === 1;
    ledger.entriesOf(mark, entries);
    let whole = 0n;
    lying.clear();
    const undone = ledger.takenBackIn(entries, happened);
    for (let n = 0; n < entries.length; n++) {
      const entry = entries.data[n]!,
        event = ledger.entryEvent(entry),
        where = ledger.entryPlace(entry);
      if (where === 0 || !happened(event)) continue;
      const code = ledger.entryQuantity(entry),
        quantity = ledger.micro(code),
        kind = ledger.eventKind(event);
      whole += quantity;
      if (isEnd) lying.add(where, quantity);
      if (undone.has(event)) continue;
      if (kind === SHIP && isEnd) shipped.push({ mark, event, place: where, quantity: -quantity });
      else if (kind === RETURN)
        returned.push({ mark, event, partner: ledger.eventPartner(event), quantity });
      else if (kind === SCRAP && isEnd && reached.counts(mark, event))
        scrapped.add(mark, event, where, amounts.place(quantity < 0n ? -quantity : quantity));
      if (kind === RECEIVE && supplies(place, mark, event))
        suppliers.add(mark, event, where, amounts.place(quantity < 0n ? -quantity : quantity));
      if (ORIGINS[kind] === 1 && quantity > 0n && supplies(place, mark, event) && came(event))
        origins.add(mark, event, where, amounts.place(quantity));
    }
    onHand[place] = amounts.place(whole);
    if (isEnd) lying.each((where, quantity) => here.add(mark, 0, where, amounts.place(quantity)));
  }
  if (down) for (const mark of cleared) shippedOf(mark);
  for (const row of lessReturned(ledger, shipped, returned))
    (belongs(row) ? customers : clearedCustomers).add(
      row.mark,
      row.event,
      row.place,
      amounts.place(row.quantity)
    );

  const asksContent = down && !cut.withoutProducts?.length;
  const carried = asksContent
    ? packedContent({ ledger, reached, cut, own: rootMarks, unitOf })
    : null;
  const written = carried ? writeOnce(carried.content) : null;
  return {
    content: written?.places ?? null,
    contents: written?.texts ?? [],
    contentBy: carried?.by ?? null,
    clearedCustomers: clearedCustomers.done(),
    onHand,
    ends: {
      customers: customers.done(),
      onHand: here.done(),
      scrapped: scrapped.done(),
      suppliers: suppliers.done(),
      origins: origins.done()
    },
    balances: own.map((ownMarks) => balanceOf(ownMarks)),
    amounts: amounts.texts
  };

  /** Whether an event brought the mark at hand, and did not only find it at another place. */
  function came(event: number): boolean {
    for (let n = 0; n < entries.length; n++) {
      const entry = entries.data[n]!;
      if (ledger.entryEvent(entry) === event && ledger.micro(ledger.entryQuantity(entry)) < 0n)
        return false;
    }
    return true;
  }

  /** Whether a receipt says where something traced came from. */
  function supplies(place: number, mark: number, event: number): boolean {
    if (down) return rootMarks[place] === 1 && (asked === null || asked.has(event));
    return reached.counts(mark, event);
  }

  function belongs({ mark, event }: Shipped): boolean {
    return reached.placeOf[mark]! > 0 && reached.counts(mark, event);
  }

  /** Who has a mark that was cleared. */
  function shippedOf(mark: number): void {
    ledger.entriesOf(mark, entries);
    const undone = ledger.takenBackIn(entries, happened);
    for (let n = 0; n < entries.length; n++) {
      const entry = entries.data[n]!,
        event = ledger.entryEvent(entry),
        place = ledger.entryPlace(entry);
      if (place === 0 || !happened(event) || undone.has(event)) continue;
      const quantity = ledger.micro(ledger.entryQuantity(entry)),
        kind = ledger.eventKind(event);
      if (kind === SHIP) shipped.push({ mark, event, place, quantity: -quantity });
      if (kind === RETURN)
        returned.push({ mark, event, partner: ledger.eventPartner(event), quantity });
    }
  }

  function balanceOf(ownMarks: readonly number[]): Balance & { mark: number; causes: string[] } {
    const sums = { in: 0n, shipped: 0n, scrapped: 0n, corrected: 0n, here: 0n, used: 0n };
    const nodes = new Column(16),
      node = nodePlace();
    const moved: { kind: string; quantity: string; undoes: string | null }[] = [];
    const each = (visit: (kind: number, undoes: number, quantity: bigint) => void): void => {
      for (const mark of ownMarks) {
        ledger.entriesOf(mark, entries);
        for (let n = 0; n < entries.length; n++) {
          const entry = entries.data[n]!,
            event = ledger.entryEvent(entry);
          if (ledger.entryPlace(entry) > 0 && happened(event))
            visit(
              ledger.eventKind(event),
              ledger.eventUndoes(event),
              ledger.micro(ledger.entryQuantity(entry))
            );
        }
      }
    };
    each((ofEvent, undoes, quantity) => {
      sums.here += quantity;
      const takesBack = ofEvent === REVERSAL;
      const kind = takesBack ? undoes : ofEvent;
      if (MAKES[kind] === 1 && quantity < 0n === takesBack) sums.in += quantity;
      else if (kind === SHIP || kind === RETURN) sums.shipped -= quantity;
      else if (kind === SCRAP) sums.scrapped -= quantity;
      else if (CORRECTS[kind] === 1) sums.corrected += quantity;
    });
    for (const mark of ownMarks) {
      ledger.nodesDown(mark, nodes);
      for (let n = 0; n < nodes.length; n++) {
        ledger.load(nodes.data[n]!, node);
        if (
          node.type !== 'made' ||
          !walker.holding.holds(nodes.data[n]!, node, until === undefined ? {} : { until })
        )
          continue;
        for (let i = 0; i < node.ins; i++)
          if (node.inputs[node.inAt + i] === mark)
            sums.used += ledger.micro(node.inCodes[node.inCodesAt + i]!);
      }
    }
    const open = sums.in + sums.corrected - sums.here - sums.used - sums.shipped - sums.scrapped;
    const used = sayMicro(sums.used),
      onHandNow = sayMicro(sums.here);
    if (open !== 0n)
      each((kind, undoes, quantity) => {
        moved.push({
          kind: KIND_OF_CODE[kind]!,
          quantity: sayMicro(quantity),
          undoes: undoes > 0 ? KIND_OF_CODE[undoes]! : null
        });
      });
    return {
      mark: ownMarks[0]!,
      in: sayMicro(sums.in),
      onHand: onHandNow,
      used,
      shipped: sayMicro(sums.shipped),
      scrapped: sayMicro(sums.scrapped),
      corrected: sayMicro(sums.corrected),
      open: sayMicro(open),
      causes: open === 0n ? [] : openCauses(moved, onHandNow, used)
    };
  }
}

interface Shipped {
  mark: number;
  event: number;
  place: number;
  quantity: bigint;
}
interface Returned {
  mark: number;
  event: number;
  partner: number;
  quantity: bigint;
}

/**
 * What customers still have: what came back is taken off the latest shipments of that mark to them
 * that were booked before it came.
 */
function lessReturned(
  ledger: OpenLedger,
  shipped: Shipped[],
  returned: readonly Returned[]
): Shipped[] {
  if (returned.length === 0) return shipped;
  const key = (mark: number, partner: number) => `${mark} ${partner}`;
  const marks = new Set(returned.map((row) => row.mark));
  const shipments = groupBy(
    shipped.filter((row) => marks.has(row.mark)).sort((a, b) => b.event - a.event),
    (row) => key(row.mark, ledger.eventPartner(row.event))
  );
  for (const back of [...returned].sort((a, b) => a.event - b.event)) {
    let open = back.quantity;
    for (const one of shipments.get(key(back.mark, back.partner)) ?? []) {
      if (one.event > back.event || open === 0n) continue;
      const taken = open < one.quantity ? open : one.quantity;
      one.quantity -= taken;
      open -= taken;
    }
  }
  return shipped.filter((row) => row.quantity !== 0n);
}

/** Many marks hold the same amount: each is written out once. */
function writeOnce(content: readonly bigint[]): { places: Uint32Array; texts: string[] } {
  const known = new Map<bigint, number>(),
    places = new Uint32Array(content.length),
    texts: string[] = [];
  for (let n = 0; n < content.length; n++) {
    let place = known.get(content[n]!);
    if (place === undefined) {
      known.set(content[n]!, (place = texts.length));
      texts.push(sayContent(content[n]!));
    }
    places[n] = place;
  }
  return { places, texts };
}
