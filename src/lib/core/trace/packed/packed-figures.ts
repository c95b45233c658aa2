import { bringsIn, openCauses, type Balance } from '../mass-balance.ts';
import type { Direction } from '../graph.ts';
import { Column } from './column.ts';
import { sayContent, sayMicro } from './amounts.ts';
import { packedContent } from './packed-content.ts';
import { KIND_OF_CODE, eventKindCode } from './packed-ledger.ts';
import { nodePlace, type OpenLedger } from './open-ledger.ts';
import type { PackedCut, Reached, Walker } from './packed-walk.ts';

/**
 * One end: a mark with the event that brought it there, at a place, and how much; `event` 0 for
 * what is on hand. Quantities are places in `amounts`.
 */
export interface PackedEnds {
  mark: Uint32Array;
  event: Uint32Array;
  place: Uint32Array;
  amount: Uint32Array;
}

export interface PackedFigures {
  /**
   * Content by place in the walk, as a place in `contents`; null upstream, and where products are
   * left out.
   */
  content: Uint32Array | null;
  contents: string[];
  /** On hand by place in the walk, as a place in `amounts`. */
  onHand: Uint32Array;
  ends: { customers: PackedEnds; onHand: PackedEnds; scrapped: PackedEnds; suppliers: PackedEnds };
  amounts: string[];
  /** Of each root, in the order of the walk. */
  balances: (Balance & { mark: number; causes: string[] })[];
}

const SHIP = eventKindCode('ship'),
  SCRAP = eventKindCode('scrap'),
  RECEIVE = eventKindCode('receive'),
  RETURN = eventKindCode('return'),
  REVERSAL = eventKindCode('reversal');
const flags = (test: (kind: string) => boolean): Uint8Array =>
  Uint8Array.from(KIND_OF_CODE, (kind) => (test(kind) ? 1 : 0));
const BRINGS_IN = flags(bringsIn),
  MAKES = flags((kind) => bringsIn(kind) && kind !== 'gain'),
  CORRECTS = flags((kind) => ['gain', 'loss', 'count'].includes(kind));

/**
 * The figures of a trace: content, ends, on hand and the balance of every root, as
 * core/trace/trace.ts finds them, from a packed ledger. Downstream the ends are those of every
 * mark reached and suppliers those of the roots; upstream the other way round.
 * @param roots how many of the marks reached are roots; they come first
 * @param unitOf a number for the unit of a product
 */
export function packedFigures(
  walker: Walker,
  reached: Reached,
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
    const members = ledger.markWord(root) % 4 === 1 ? walker.membersOf(root, until, false) : [];
    rootMarks[place] = 1;
    for (const member of members)
      if (reached.placeOf[member]! > 0) rootMarks[reached.placeOf[member]! - 1] = 1;
    return [root, ...members];
  });

  const customers = new Ends(),
    here = new Ends(),
    scrapped = new Ends(),
    suppliers = new Ends();
  const came = new Array<bigint>(marks.length).fill(0n);
  const onHand = new Uint32Array(marks.length);
  const shipped: Shipped[] = [],
    returned: Returned[] = [];
  const atPlace = new Map<number, bigint>();
  for (let place = 0; place < marks.length; place++) {
    const mark = marks.data[place]!,
      isEnd = down || rootMarks[place] === 1;
    ledger.entriesOf(mark, entries);
    let cameIn = 0n,
      whole = 0n;
    atPlace.clear();
    for (let n = 0; n < entries.length; n++) {
      const entry = entries.data[n]!,
        event = ledger.entryEvent(entry),
        where = ledger.entryPlace(entry);
      if (where === 0 || !happened(event)) continue;
      const code = ledger.entryQuantity(entry),
        quantity = ledger.micro(code),
        kind = ledger.eventKind(event);
      whole += quantity;
      if (isEnd) atPlace.set(where, (atPlace.get(where) ?? 0n) + quantity);
      if (
        BRINGS_IN[kind] === 1
          ? quantity > 0n
          : kind === REVERSAL && quantity < 0n && MAKES[ledger.eventUndoes(event)] === 1
      )
        cameIn += quantity;
      if (kind === SHIP && isEnd) shipped.push({ mark, event, place: where, quantity: -quantity });
      else if (kind === RETURN)
        returned.push({ mark, partner: ledger.eventPartner(event), quantity });
      else if (kind === SCRAP && isEnd)
        scrapped.add(mark, event, where, amounts.place(quantity < 0n ? -quantity : quantity));
      if (kind === RECEIVE && (!down || rootMarks[place] === 1))
        suppliers.add(mark, event, where, amounts.place(quantity < 0n ? -quantity : quantity));
    }
    came[place] = cameIn;
    onHand[place] = amounts.place(whole);
    if (isEnd)
      for (const [where, quantity] of atPlace)
        if (quantity > 0n) here.add(mark, 0, where, amounts.place(quantity));
  }
  for (const row of lessReturned(ledger, shipped, returned))
    customers.add(row.mark, row.event, row.place, amounts.place(row.quantity));

  const totals = wholes();
  const content =
    down && !cut.withoutProducts?.length
      ? packedContent(ledger, reached, roots, (place) => totals[place]!, unitOf)
      : null;
  const written = content ? writeOnce(content) : null;
  return {
    content: written?.places ?? null,
    contents: written?.texts ?? [],
    onHand,
    ends: {
      customers: customers.done(),
      onHand: here.done(),
      scrapped: scrapped.done(),
      suppliers: suppliers.done()
    },
    balances: own.map((ownMarks) => balanceOf(ownMarks)),
    amounts: amounts.texts
  };

  /** All that ever came in of each mark, with the serials within it. */
  function wholes(): bigint[] {
    const sums = [...came],
      node = nodePlace();
    for (let n = 0; n < reached.nodes.length; n++) {
      ledger.load(reached.nodes.data[n]!, node);
      if (node.type === 'member')
        sums[reached.placeOf[node.inputs[node.inAt]!]! - 1]! +=
          came[reached.placeOf[node.outputs[node.outAt]!]! - 1]!;
    }
    return sums;
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
    each((kind, undoes, quantity) => {
      sums.here += quantity;
      if (
        (MAKES[kind] === 1 && quantity > 0n) ||
        (kind === REVERSAL && quantity < 0n && MAKES[undoes] === 1)
      )
        sums.in += quantity;
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
          !walker.holds(nodes.data[n]!, node, until === undefined ? {} : { until })
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
  partner: number;
  quantity: bigint;
}

/** What customers still have: what came back is taken off their latest shipments of that mark. */
function lessReturned(
  ledger: OpenLedger,
  shipped: Shipped[],
  returned: readonly Returned[]
): Shipped[] {
  if (returned.length === 0) return shipped;
  const back = new Map<string, bigint>();
  const key = (mark: number, partner: number) => `${mark} ${partner}`;
  for (const { mark, partner, quantity } of returned)
    back.set(key(mark, partner), (back.get(key(mark, partner)) ?? 0n) + quantity);
  for (const row of [...shipped].sort(
    (a, b) => ledger.eventAt(b.event) - ledger.eventAt(a.event)
  )) {
    const open = back.get(key(row.mark, ledger.eventPartner(row.event)));
    if (!open) continue;
    const taken = open < row.quantity ? open : row.quantity;
    back.set(key(row.mark, ledger.eventPartner(row.event)), open - taken);
    row.quantity -= taken;
  }
  return shipped.filter((row) => row.quantity !== 0n);
}

/** Amounts as strings, each written once. */
class Amounts {
  private readonly places = new Map<bigint, number>();
  readonly texts: string[] = [];
  place(micro: bigint): number {
    let place = this.places.get(micro);
    if (place === undefined) {
      this.places.set(micro, (place = this.texts.length));
      this.texts.push(sayMicro(micro));
    }
    return place;
  }
}

class Ends {
  private readonly columns = {
    mark: new Column(16),
    event: new Column(16),
    place: new Column(16),
    amount: new Column(16)
  };
  add(mark: number, event: number, place: number, amount: number): void {
    this.columns.mark.push(mark);
    this.columns.event.push(event);
    this.columns.place.push(place);
    this.columns.amount.push(amount);
  }
  done(): PackedEnds {
    const kept = ({ data, length }: Column) => data.slice(0, length);
    return {
      mark: kept(this.columns.mark),
      event: kept(this.columns.event),
      place: kept(this.columns.place),
      amount: kept(this.columns.amount)
    };
  }
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
