import { Column } from './column.ts';
import { Dictionary } from './dictionary.ts';
import { settleOrder } from './node-sides.ts';
import { OriginSets } from './origin-sets.ts';
import {
  eventKindCode,
  IS_LIST,
  NUMBERED,
  SHARED,
  WITH_SHARES,
  type PackedLedger
} from './packed-ledger.ts';
import type { BookedRows } from './booked-rows.ts';

export type NodeType = 'made' | 'member' | 'fitted' | 'removed';

/** A node that was booked since the ledger was packed. */
interface AddedNode {
  type: NodeType;
  transformation: number;
  event: number;
  inputs: Uint32Array;
  outputs: Uint32Array;
  codes: Uint32Array;
  shares: Uint32Array | null;
  numbered: boolean;
  shared: boolean;
}
interface AddedEvent {
  kind: number;
  undoes: number;
  at: number;
  partner: number;
  person: number;
  undone: number;
}

/** One node with both its sides, wherever it is kept; filled anew by `load`. */
export interface LoadedNode {
  type: NodeType;
  transformation: number;
  event: number;
  numbered: boolean;
  /** Its outputs are made by others of its event. */ shared: boolean;
  ins: number;
  inputs: Uint32Array;
  inAt: number;
  inCodes: Uint32Array;
  inCodesAt: number;
  outs: number;
  outputs: Uint32Array;
  outAt: number;
  outCodes: Uint32Array;
  outCodesAt: number;
  shares: Uint32Array | null;
  sharesAt: number;
  /** Where a side of one mark is put. */
  readonly oneIn: Uint32Array;
  readonly oneOut: Uint32Array;
}

const NONE = new Uint32Array(0);
/** A place for one loaded node. */
export const nodePlace = (): LoadedNode => ({
  type: 'made',
  transformation: 0,
  event: 0,
  numbered: false,
  shared: false,
  ins: 0,
  inputs: NONE,
  inAt: 0,
  inCodes: NONE,
  inCodesAt: 0,
  outs: 0,
  outputs: NONE,
  outAt: 0,
  outCodes: NONE,
  outCodesAt: 0,
  shares: null,
  sharesAt: 0,
  oneIn: new Uint32Array(1),
  oneOut: new Uint32Array(1)
});

const NONE_BACK: ReadonlySet<number> = new Set();

/**
 * A packed ledger with what was booked since, read as one. It belongs to one thread: the packed
 * part is shared and never changes, what was added is this thread's own.
 */
export class OpenLedger {
  private readonly quantities = new Dictionary();
  private readonly shares = new Dictionary();
  private readonly marks = new Map<number, number>();
  private readonly ups = new Map<number, number[]>();
  private readonly downs = new Map<number, number[]>();
  private readonly moved = new Map<number, number[]>();
  private readonly nodes: AddedNode[] = [];
  private readonly entries = new Column(64);
  private readonly events = new Map<number, AddedEvent>();
  private readonly takenBack: Map<number, number>;
  private readonly undone: Map<number, number>;
  private readonly separated = new Set<number>();
  private readonly nodeOf = new Map<number, number>();
  /** Member nodes whose serial a later booking took out of its lot's own stock. */
  private readonly numberedSince = new Set<number>();
  private readonly origin = new Map<number, number>();
  private readonly originSets: OriginSets;
  private largest: number;

  /** The packed quantities, made once: reading one from its array makes it anew each time. */
  private readonly packedQuantities: readonly bigint[];

  /** Whether each packed quantity adds. */
  private readonly positive: Uint8Array;

  constructor(readonly base: PackedLedger) {
    this.packedQuantities = Array.from(base.quantities);
    this.positive = Uint8Array.from(base.quantities, (micro) => (micro > 0n ? 1 : 0));
    this.largest = base.marks.length - 1;
    this.takenBack = new Map(Array.from(base.reversed, (tie, n) => [tie, base.reversedBy[n]!]));
    this.undone = new Map(Array.from(base.reversals, (event, n) => [event, base.undone[n]!]));
    this.originSets = new OriginSets(base.origins);
    this.noteSeparated();
  }

  /**
   * Whether something was taken out of a mark as what it was, by a teardown or a removal: then how
   * long each part stayed in it is asked.
   */
  isSeparated(mark: number): boolean {
    return this.separated.has(mark);
  }

  /** Whether a mark may have come in more than once: quick, and true where it is not known. */
  cameInTwice(mark: number): boolean {
    const { up, moves } = this.base;
    if (this.ups.has(mark) || this.moved.has(mark)) return true;
    const word = up[mark] ?? 0;
    if (word >= IS_LIST) return true;
    const moved = moves[mark] ?? 0;
    return moved >= IS_LIST && (word === 0 || this.hasEntryOf(mark, RECEIVE));
  }

  get hasSeparated(): boolean {
    return this.separated.size > 0;
  }

  private noteSeparated(): void {
    const { base } = this,
      node = nodePlace();
    const note = (id: number): void => {
      this.load(id, node);
      for (let i = 0; i < node.ins; i++) this.separated.add(node.inputs[node.inAt + i]!);
    };
    for (let id = 0; id < base.firstMember; id++)
      if (base.shape[id] !== 0 && base.kinds[base.event[id]!] === TEARDOWN) note(id);
    for (let id = base.firstRemoval; id < base.shape.length; id++) note(id);
  }

  /** The event a reversal took back; 0 where it is none. */
  undoneBy(event: number): number {
    return this.undone.size === 0 ? 0 : (this.undone.get(event) ?? 0);
  }

  /** Every event that was taken back, at least in part. */
  undoneEvents(): number[] {
    return [...this.undone.values()];
  }

  /**
   * The events that entries of one mark say were taken back of it.
   * @param happened whether an event counts: as of a day, one that came later does not
   */
  takenBackIn(entries: Column, happened: (event: number) => boolean): ReadonlySet<number> {
    if (this.undone.size === 0) return NONE_BACK;
    const found = new Set<number>();
    for (let n = 0; n < entries.length; n++) {
      const event = this.entryEvent(entries.data[n]!);
      const back = this.undone.get(event);
      if (back !== undefined && happened(event)) found.add(back);
    }
    return found;
  }

  /**
   * One past the largest mark, and past the last node: what a thread's own arrays must have room
   * for.
   */
  get markBound(): number {
    return this.largest + 1;
  }
  get nodeBound(): number {
    return this.base.shape.length + this.nodes.length;
  }
  /** One past the last entry, and past the last place of a set of suppliers. */
  get entryBound(): number {
    return (this.base.entries.length + this.entries.length) / 3;
  }
  get originBound(): number {
    return this.originSets.pool.length;
  }
  /** Rows added since it was packed. */
  added = 0;

  /** Product id × 4 + kind; 0 where there is no such mark. */
  markWord(mark: number): number {
    return this.base.marks[mark] || this.marks.get(mark) || 0;
  }
  productOf(mark: number): number {
    return this.markWord(mark) >>> 2;
  }

  eventKind(event: number): number {
    return this.base.kinds[event] || this.events.get(event)?.kind || 0;
  }
  eventUndoes(event: number): number {
    return this.base.kinds[event]
      ? this.base.undoes[event]!
      : (this.events.get(event)?.undoes ?? 0);
  }
  eventAt(event: number): number {
    return this.base.kinds[event] ? this.base.at[event]! : (this.events.get(event)?.at ?? 0);
  }
  eventPartner(event: number): number {
    return this.base.kinds[event]
      ? this.base.partners[event]!
      : (this.events.get(event)?.partner ?? 0);
  }
  eventPerson(event: number): number {
    return this.base.kinds[event]
      ? this.base.people[event]!
      : (this.events.get(event)?.person ?? 0);
  }
  knowsEvent(event: number): boolean {
    return this.eventKind(event) !== 0;
  }

  /** The event that took a node back; 0 where it holds. */
  takenBackBy(node: number): number {
    return this.takenBack.size === 0 ? 0 : (this.takenBack.get(node) ?? 0);
  }

  micro(code: number): bigint {
    const known = this.packedQuantities.length;
    return code < known ? this.packedQuantities[code]! : this.quantities.values[code - known + 1]!;
  }
  share(code: number): bigint {
    const known = this.base.shares.length;
    return code < known ? this.base.shares[code]! : this.shares.values[code - known + 1]!;
  }

  entryEvent(entry: number): number {
    return this.entry(entry, 0);
  }
  entryPlace(entry: number): number {
    return this.entry(entry, 1);
  }
  entryQuantity(entry: number): number {
    return this.entry(entry, 2);
  }
  private entry(entry: number, part: number): number {
    const at = entry * 3 + part,
      known = this.base.entries.length;
    return at < known ? this.base.entries[at]! : this.entries.data[at - known]!;
  }

  /** Fills `into` with the nodes a mark went into. */
  nodesDown(mark: number, into: Column): void {
    into.clear();
    this.word(this.base.down[mark], into);
    if (this.downs.size > 0) append(this.downs.get(mark), into);
  }
  /** Fills `into` with the nodes a mark came out of. */
  nodesUp(mark: number, into: Column): void {
    into.clear();
    this.word(this.base.up[mark], into);
    if (this.ups.size > 0) append(this.ups.get(mark), into);
  }
  /** Fills `into` with a mark's entries, those that moved it before those that changed it. */
  entriesOf(mark: number, into: Column): void {
    into.clear();
    this.word(this.base.moves[mark], into);
    if (this.moved.size > 0) append(this.moved.get(mark), into);
  }

  /** Whether an event of a kind ever moved a mark. */
  hasEntryOf(mark: number, kind: number): boolean {
    const { moves, lists } = this.base,
      word = moves[mark] ?? 0;
    if (word > 0 && word < IS_LIST) {
      if (this.moves(word - 1, kind)) return true;
    } else if (word >= IS_LIST)
      for (let at = word & ~IS_LIST; ; at++) {
        const value = lists[at]!;
        if (this.moves(value & ~IS_LIST, kind)) return true;
        if (value >= IS_LIST) break;
      }
    if (this.moved.size > 0)
      for (const entry of this.moved.get(mark) ?? []) if (this.moves(entry, kind)) return true;
    return false;
  }

  private moves(entry: number, kind: number): boolean {
    return this.eventKind(this.entryEvent(entry)) === kind && this.entryPlace(entry) > 0;
  }

  /** The entry that first brought a mark in; -1 where none did. */
  firstIn(mark: number): number {
    const { moves, lists } = this.base,
      word = moves[mark] ?? 0;
    if (word > 0 && word < IS_LIST) {
      if (this.bringsIn(word - 1)) return word - 1;
    } else if (word >= IS_LIST)
      for (let at = word & ~IS_LIST; ; at++) {
        const value = lists[at]!;
        if (this.bringsIn(value & ~IS_LIST)) return value & ~IS_LIST;
        if (value >= IS_LIST) break;
      }
    if (this.moved.size > 0)
      for (const entry of this.moved.get(mark) ?? []) if (this.bringsIn(entry)) return entry;
    return -1;
  }

  private bringsIn(entry: number): boolean {
    const code = this.entryQuantity(entry);
    return code < this.positive.length ? this.positive[code] === 1 : this.micro(code) > 0n;
  }

  private word(word: number | undefined, into: Column): void {
    if (!word) return;
    if (word < IS_LIST) {
      into.push(word - 1);
      return;
    }
    const { lists } = this.base;
    for (let at = word & ~IS_LIST; ; at++) {
      const value = lists[at]!;
      if (value >= IS_LIST) {
        into.push(value & ~IS_LIST);
        return;
      }
      into.push(value);
    }
  }

  /**
   * The suppliers anything in a mark came from: a place, the same for equal sets; `suppliers` tells
   * which.
   */
  originOf(mark: number): number {
    return this.origin.get(mark) ?? this.base.origin[mark] ?? 0;
  }
  suppliers(origin: number): Uint32Array {
    return this.originSets.members(origin);
  }

  /** The node of a transformation. */
  private nodeOfTransformation(id: number): number {
    return this.nodeOf.get(id) ?? id;
  }

  /** The event of a node. */
  nodeEvent(node: number): number {
    const { event } = this.base;
    return node < event.length ? event[node]! : this.nodes[node - event.length]!.event;
  }

  /** Whether a node says that a serial is within a lot. */
  isMember(node: number): boolean {
    const { shape } = this.base;
    if (node >= shape.length) return this.nodes[node - shape.length]!.type === 'member';
    return this.typeOf(node) === 'member';
  }

  /** Both sides of a node. What was loaded before is gone. */
  load(node: number, into: LoadedNode): void {
    const { base } = this;
    if (node >= base.shape.length) {
      const added = this.nodes[node - base.shape.length]!;
      into.type = added.type;
      into.transformation = added.transformation;
      into.event = added.event;
      into.numbered = added.numbered || this.numberedSince.has(node);
      into.shared = added.shared;
      into.ins = added.inputs.length;
      into.inputs = added.inputs;
      into.inAt = 0;
      into.inCodes = added.codes;
      into.inCodesAt = 0;
      into.outs = added.outputs.length;
      into.outputs = added.outputs;
      into.outAt = 0;
      into.outCodes = added.codes;
      into.outCodesAt = added.inputs.length;
      into.shares = added.shares;
      into.sharesAt = 0;
      return;
    }
    const at = base.shape[node]!,
      { shapes } = base,
      ins = shapes[at]!,
      outs = shapes[at + 1]!,
      flags = shapes[at + 2]!;
    into.type = this.typeOf(node);
    into.transformation = node < base.firstMember ? node : 0;
    into.event = base.event[node]!;
    into.numbered =
      (flags & NUMBERED) !== 0 || (this.numberedSince.size > 0 && this.numberedSince.has(node));
    into.shared = (flags & SHARED) !== 0;
    into.ins = ins;
    if (ins === 1) {
      into.oneIn[0] = base.inputs[node]!;
      into.inputs = into.oneIn;
      into.inAt = 0;
    } else {
      into.inputs = base.sides;
      into.inAt = base.inputs[node]!;
    }
    into.inCodes = shapes;
    into.inCodesAt = at + 3;
    into.outs = outs;
    if (outs === 1) {
      into.oneOut[0] = base.outputs[node]!;
      into.outputs = into.oneOut;
      into.outAt = 0;
    } else {
      into.outputs = base.sides;
      into.outAt = base.outputs[node]!;
    }
    into.outCodes = shapes;
    into.outCodesAt = at + 3 + ins;
    into.shares = (flags & WITH_SHARES) !== 0 ? shapes : null;
    into.sharesAt = at + 3 + ins + outs;
  }

  private typeOf(node: number): NodeType {
    const { firstMember, firstFitting, firstRemoval } = this.base;
    if (node < firstMember) return 'made';
    if (node < firstFitting) return 'member';
    return node < firstRemoval ? 'fitted' : 'removed';
  }

  /**
   * Adds what was booked since. Events that are known already are passed over, so that rows may be
   * given twice.
   * @returns the rows added
   */
  add(rows: BookedRows): number {
    const fresh = new Set<number>();
    rows.events.forEach((event) => {
      if (!this.knowsEvent(event.id)) {
        this.events.set(event.id, event);
        if (event.undone > 0) this.undone.set(event.id, event.undone);
        fresh.add(event.id);
      }
    });
    if (fresh.size === 0) return 0;
    let count = fresh.size;
    const changed: number[] = [];
    const lots: { serial: number; lot: number; birth: number }[] = [];
    for (const { id, product, kind, lot, birth } of rows.marks) {
      if (!fresh.has(birth)) continue;
      this.marks.set(id, product * 4 + kind);
      this.largest = Math.max(this.largest, id);
      if (lot > 0) lots.push({ serial: id, lot, birth });
      count++;
    }
    for (const tie of rows.transformations) {
      if (!fresh.has(tie.event)) continue;
      const inputs = Uint32Array.from(tie.inputs, (row) => row.mark),
        inCodes = Uint32Array.from(tie.inputs, (row) => this.quantityCode(row.quantity));
      const outputs = Uint32Array.from(tie.outputs, (row) => row.mark),
        outCodes = Uint32Array.from(tie.outputs, (row) => this.quantityCode(row.quantity));
      const shares = tie.outputs.some((row) => row.share !== null)
        ? Uint32Array.from(tie.outputs, (row) =>
            row.share === null ? 0 : this.shareCode(row.share)
          )
        : null;
      settleOrder(inputs, inCodes, 0, inputs.length);
      if (!shares) settleOrder(outputs, outCodes, 0, outputs.length);
      this.nodeOf.set(
        tie.id,
        this.addNode({
          type: 'made',
          transformation: tie.id,
          event: tie.event,
          inputs,
          outputs,
          codes: Uint32Array.from([...inCodes, ...outCodes]),
          shares,
          numbered: false,
          shared: tie.shared
        })
      );
      if (this.eventKind(tie.event) === TEARDOWN)
        for (const input of inputs) this.separated.add(input);
      for (const output of outputs) this.noteNumbered(output, inputs);
      changed.push(...outputs);
      count += inputs.length + outputs.length;
    }
    const one = this.quantityCode(1_000_000n);
    for (const { serial, lot, birth } of lots) {
      this.addNode({
        type: 'member',
        transformation: 0,
        event: birth,
        inputs: Uint32Array.of(lot),
        outputs: Uint32Array.of(serial),
        codes: Uint32Array.of(one, one),
        shares: null,
        shared: false,
        numbered: this.cameOutOfLot(serial, lot)
      });
      changed.push(serial);
    }
    for (const { component, host, quantity, event } of rows.fittings) {
      if (!fresh.has(event)) continue;
      this.addNode({
        type: 'fitted',
        transformation: 0,
        event,
        inputs: Uint32Array.of(component),
        outputs: Uint32Array.of(host),
        codes: Uint32Array.of(this.quantityCode(quantity), one),
        shares: null,
        shared: false,
        numbered: false
      });
      changed.push(host);
      count++;
    }
    for (const { component, host, quantity, event } of rows.removals) {
      if (!fresh.has(event)) continue;
      this.separated.add(host);
      this.addNode({
        type: 'removed',
        transformation: 0,
        event,
        inputs: Uint32Array.of(host),
        outputs: Uint32Array.of(component),
        codes: Uint32Array.of(this.quantityCode(quantity), one),
        shares: null,
        shared: false,
        numbered: false
      });
      count++;
    }
    for (const { event, mark, place, quantity } of rows.movements) {
      if (!fresh.has(event)) continue;
      const entry = (this.base.entries.length + this.entries.length) / 3;
      this.entries.push(event);
      this.entries.push(place);
      this.entries.push(this.quantityCode(quantity));
      push(this.moved, mark, entry);
      if (this.eventKind(event) === RECEIVE) changed.push(mark);
      count++;
    }
    for (const { transformation, event } of rows.takenBack)
      if (fresh.has(event)) {
        this.takenBack.set(this.nodeOfTransformation(transformation), event);
        count++;
      }
    this.followOrigins([
      ...changed,
      ...this.forgetOrigins(
        rows.takenBack
          .filter((row) => fresh.has(row.event))
          .map((row) => this.nodeOfTransformation(row.transformation))
      )
    ]);
    this.added += count;
    return count;
  }

  private addNode(node: AddedNode): number {
    const id = this.base.shape.length + this.nodes.length;
    this.nodes.push(node);
    for (const mark of node.inputs) push(this.downs, mark, id);
    for (const mark of node.outputs) push(this.ups, mark, id);
    return id;
  }

  private noteNumbered(serial: number, inputs: Uint32Array): void {
    const nodes = new Column(8),
      node = nodePlace();
    this.nodesUp(serial, nodes);
    for (let n = 0; n < nodes.length; n++) {
      this.load(nodes.data[n]!, node);
      if (node.type === 'member' && inputs.includes(node.inputs[node.inAt]!))
        this.numberedSince.add(nodes.data[n]!);
    }
  }

  private cameOutOfLot(serial: number, lot: number): boolean {
    const nodes = new Column(8),
      node = nodePlace();
    this.nodesUp(serial, nodes);
    for (let n = 0; n < nodes.length; n++) {
      this.load(nodes.data[n]!, node);
      for (let i = 0; node.type === 'made' && i < node.ins; i++)
        if (node.inputs[node.inAt + i] === lot) return true;
    }
    return false;
  }

  private quantityCode(micro: bigint): number {
    const known = this.known.get(micro);
    return known ?? this.base.quantities.length + this.quantities.code(micro) - 1;
  }
  private shareCode(share: bigint): number {
    const at = this.base.shares.indexOf(share);
    return at > 0 ? at : this.base.shares.length + this.shares.code(share) - 1;
  }
  /** Codes of the packed quantities by value, made when the first booking is added. */
  private get known(): Map<bigint, number> {
    return (this.knownQuantities ??= new Map(
      Array.from(this.base.quantities, (micro, code) => [micro, code])
    ));
  }
  private knownQuantities: Map<bigint, number> | undefined;

  /**
   * Forgets where everything came from that nodes taken back led to; answers those marks, to be
   * looked at again.
   */
  private forgetOrigins(nodes: readonly number[]): number[] {
    const found = new Set<number>(),
      list = new Column(16),
      node = nodePlace();
    const outputs = (id: number): number[] => {
      this.load(id, node);
      return Array.from(node.outputs.subarray(node.outAt, node.outAt + node.outs));
    };
    const waiting = nodes.flatMap(outputs);
    for (let mark = waiting.pop(); mark !== undefined; mark = waiting.pop()) {
      if (found.has(mark)) continue;
      found.add(mark);
      this.origin.set(mark, 0);
      this.nodesDown(mark, list);
      for (const next of Array.from(list.data.subarray(0, list.length)))
        waiting.push(...outputs(next));
    }
    return [...found];
  }

  /** Carries suppliers on from marks that something was added to. */
  private followOrigins(changed: readonly number[]): void {
    const waiting = [...new Set(changed)],
      nodes = new Column(16),
      entries = new Column(16),
      node = nodePlace();
    for (let mark = waiting.pop(); mark !== undefined; mark = waiting.pop()) {
      let set = this.originOf(mark);
      this.entriesOf(mark, entries);
      for (let n = 0; n < entries.length; n++) {
        const event = this.entryEvent(entries.data[n]!);
        if (this.eventKind(event) === RECEIVE && this.eventPartner(event) > 0)
          set = this.originSets.union(set, this.originSets.of([this.eventPartner(event)]));
      }
      this.nodesUp(mark, nodes);
      for (let n = 0; n < nodes.length; n++) {
        if (this.takenBackBy(nodes.data[n]!) > 0) continue;
        this.load(nodes.data[n]!, node);
        if (node.type === 'removed') continue;
        for (let i = 0; i < node.ins; i++)
          set = this.originSets.union(set, this.originOf(node.inputs[node.inAt + i]!));
      }
      if (set === this.originOf(mark)) continue;
      this.origin.set(mark, set);
      this.nodesDown(mark, nodes);
      for (let n = 0; n < nodes.length; n++) {
        this.load(nodes.data[n]!, node);
        for (let o = 0; o < node.outs; o++) waiting.push(node.outputs[node.outAt + o]!);
      }
    }
  }
}

const RECEIVE = eventKindCode('receive'),
  TEARDOWN = eventKindCode('teardown');

function append(from: readonly number[] | undefined, into: Column): void {
  if (from) for (const value of from) into.push(value);
}

function push(map: Map<number, number[]>, key: number, value: number): void {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}
