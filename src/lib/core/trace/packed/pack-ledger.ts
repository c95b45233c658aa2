import { Column } from './column.ts';
import { Dictionary, ListPool } from './dictionary.ts';
import { settleOrder } from './node-sides.ts';
import { originsOf } from './origins.ts';
import {
  IS_LIST,
  MOST,
  NUMBERED,
  SHARED,
  WITH_SHARES,
  type PackedLedger
} from './packed-ledger.ts';

/** Makes the room an array takes: shared between threads on the server, plain in tests. */
export type Allocate = (bytes: number) => ArrayBufferLike;

/**
 * Takes the rows of a ledger, table by table, and packs them. Ids are those of the database;
 * quantities are micro-units, as plain numbers where they are safe ones.
 * Rows of one table come in any order, but movements by id; `input` and `output` rows of one
 * transformation come together, transformations ascending.
 */
export class LedgerPacker {
  private readonly quantities = new Dictionary();
  private readonly shares = new Dictionary();
  private readonly markWords = new Column();
  private readonly memberSerial = new Column(16);
  private readonly memberLot = new Column(16);
  private readonly memberEvent = new Column(16);
  private readonly tieEvent = new Column();
  private readonly sharedTies = new Set<number>();
  private readonly sides = {
    input: { tie: new Column(), mark: new Column(), code: new Column(), share: new Column(0) },
    output: { tie: new Column(), mark: new Column(), code: new Column(), share: new Column() }
  };
  private readonly fitComponent = new Column(16);
  private readonly fitHost = new Column(16);
  private readonly fitCode = new Column(16);
  private readonly fitEvent = new Column(16);
  private readonly outComponent = new Column(16);
  private readonly outHost = new Column(16);
  private readonly outCode = new Column(16);
  private readonly outEvent = new Column(16);
  private readonly entries = new Column();
  private readonly entryMark = new Column();
  private readonly entryCode = new Column();
  private entryAt = new Map<number, number>();
  private entryEvent = -1;
  private readonly kinds = new Column();
  private readonly undoes = new Column();
  private at = new Float64Array(1024);
  private readonly partners = new Column();
  private readonly people = new Column();
  private readonly reversed: [number, number][] = [];
  private readonly reversals = new Column(16);
  private readonly undone = new Column(16);

  mark(id: number, product: number, kind: number, lot: number, birth: number): void {
    this.markWords.put(id, product * 4 + kind);
    if (lot > 0) {
      this.memberSerial.push(id);
      this.memberLot.push(lot);
      this.memberEvent.push(birth);
    }
  }

  /**
   * @param at microseconds since 2000-01-01
   * @param undone the event a reversal took back; 0 for none
   */
  bookedEvent(
    id: number,
    kind: number,
    undoes: number,
    at: number,
    partner: number,
    person: number,
    undone = 0
  ): void {
    this.kinds.put(id, kind);
    if (undone > 0) {
      this.reversals.push(id);
      this.undone.push(undone);
    }
    this.undoes.put(id, undoes);
    this.partners.put(id, partner);
    this.people.put(id, person);
    if (id >= this.at.length) {
      const larger = new Float64Array(Math.max(id + 1, this.at.length * 2));
      larger.set(this.at);
      this.at = larger;
    }
    this.at[id] = at;
  }

  /** @param shared whether its outputs are made by others of the event */
  transformation(id: number, event: number, shared = false): void {
    this.tieEvent.put(id, event);
    if (shared) this.sharedTies.add(id);
  }

  input(transformation: number, mark: number, quantity: number | bigint): void {
    this.side(this.sides.input, transformation, mark, quantity);
  }

  /** @param share in 10⁻¹², null where none is stated */
  output(
    transformation: number,
    mark: number,
    quantity: number | bigint,
    share: number | bigint | null
  ): void {
    this.side(this.sides.output, transformation, mark, quantity);
    this.sides.output.share.push(share === null ? 0 : this.shares.codeOf(share));
  }

  private side(
    side: { tie: Column; mark: Column; code: Column },
    transformation: number,
    mark: number,
    quantity: number | bigint
  ): void {
    side.tie.push(transformation);
    side.mark.push(mark);
    side.code.push(this.quantities.codeOf(quantity));
  }

  takenBack(transformation: number, event: number): void {
    this.reversed.push([transformation, event]);
  }

  fitting(component: number, host: number, quantity: number | bigint, event: number): void {
    this.fitComponent.push(component);
    this.fitHost.push(host);
    this.fitCode.push(this.quantities.codeOf(quantity));
    this.fitEvent.push(event);
  }

  removal(component: number, host: number, quantity: number | bigint, event: number): void {
    this.outComponent.push(component);
    this.outHost.push(host);
    this.outCode.push(this.quantities.codeOf(quantity));
    this.outEvent.push(event);
  }

  /** @param place 0 for a change of the mark that moved nothing */
  movement(event: number, mark: number, place: number, quantity: number | bigint): void {
    // The rows of one booking mostly come together: entries are looked up among those of its event
    // alone.
    if (event !== this.entryEvent) {
      this.entryEvent = event;
      this.entryAt = new Map();
    }
    const code = this.quantities.codeOf(quantity),
      key = place * 0x1_0000_0000 + code;
    let entry = this.entryAt.get(key);
    if (entry === undefined) {
      entry = this.entries.length / 3;
      this.entries.push(event);
      this.entries.push(place);
      this.entries.push(code);
      this.entryAt.set(key, entry);
    }
    this.entryMark.push(mark);
    this.entryCode.push(entry);
  }

  change(event: number, mark: number): void {
    this.movement(event, mark, 0, 0);
  }

  /** Packs what was taken. @throws where there is more than a word can name */
  finish(allocate: Allocate): PackedLedger {
    const shared = (length: number): Uint32Array =>
      new Uint32Array(allocate(length * 4), 0, length);
    const kept = (column: { data: Uint32Array; length: number }): Uint32Array => {
      const array = shared(column.length);
      array.set(column.data.subarray(0, column.length));
      return array;
    };
    const bytes = (column: Column): Uint8Array => {
      const array = new Uint8Array(allocate(column.length), 0, column.length);
      array.set(column.data.subarray(0, column.length));
      return array;
    };
    const big = (values: readonly bigint[]): BigInt64Array => {
      const array = new BigInt64Array(allocate(values.length * 8), 0, values.length);
      values.forEach((value, n) => {
        array[n] = value;
      });
      return array;
    };

    const { input, output } = this.sides;
    const firstMember = this.tieEvent.length,
      firstFitting = firstMember + this.memberSerial.length,
      firstRemoval = firstFitting + this.fitHost.length,
      nodes = firstRemoval + this.outHost.length;
    const markCount = this.markWords.length;
    if (nodes > MOST || this.entries.length / 3 > MOST)
      throw new Error('The ledger is too large to pack.');
    const event = shared(nodes),
      shape = shared(nodes),
      inputs = shared(nodes),
      outputs = shared(nodes);
    event.set(this.tieEvent.data.subarray(0, firstMember));
    event.set(this.memberEvent.data.subarray(0, this.memberSerial.length), firstMember);
    event.set(this.fitEvent.data.subarray(0, this.fitHost.length), firstFitting);
    event.set(this.outEvent.data.subarray(0, this.outHost.length), firstRemoval);
    const sides = new Column(),
      shapes = new Column(256),
      pool = new ListPool(shapes);
    shapes.push(0); // a shape at place 0 would read as none
    const upCount = new Uint32Array(markCount),
      downCount = new Uint32Array(markCount);
    let record = new Uint32Array(64);
    const room = (length: number) => {
      if (record.length < length) record = new Uint32Array(length * 2);
    };
    const place = (marks: Uint32Array, from: number, to: number): number => {
      if (to - from === 1) return marks[from]!;
      const at = sides.length;
      for (let i = from; i < to; i++) sides.push(marks[i]!);
      return at;
    };

    // Transformations: both sides are walked together, for both are in the order of
    // transformations.
    let inAt = 0,
      outAt = 0;
    while (inAt < input.tie.length || outAt < output.tie.length) {
      const node = Math.min(
        inAt < input.tie.length ? input.tie.data[inAt]! : Infinity,
        outAt < output.tie.length ? output.tie.data[outAt]! : Infinity
      );
      let inEnd = inAt,
        outEnd = outAt,
        shares = false;
      while (inEnd < input.tie.length && input.tie.data[inEnd] === node) inEnd++;
      while (outEnd < output.tie.length && output.tie.data[outEnd] === node)
        shares = output.share.data[outEnd++] !== 0 || shares;
      settleOrder(input.mark.data, input.code.data, inAt, inEnd);
      // Outputs with shares stay as they came: a share goes with its mark.
      if (!shares) settleOrder(output.mark.data, output.code.data, outAt, outEnd);
      const ins = inEnd - inAt,
        outs = outEnd - outAt,
        length = 3 + ins + outs + (shares ? outs : 0);
      room(length);
      record[0] = ins;
      record[1] = outs;
      record[2] = (shares ? WITH_SHARES : 0) | (this.sharedTies.has(node) ? SHARED : 0);
      record.set(input.code.data.subarray(inAt, inEnd), 3);
      record.set(output.code.data.subarray(outAt, outEnd), 3 + ins);
      if (shares) record.set(output.share.data.subarray(outAt, outEnd), 3 + ins + outs);
      shape[node] = pool.place(record, length);
      inputs[node] = place(input.mark.data, inAt, inEnd);
      outputs[node] = place(output.mark.data, outAt, outEnd);
      for (let i = inAt; i < inEnd; i++) downCount[input.mark.data[i]!]!++;
      for (let i = outAt; i < outEnd; i++) upCount[output.mark.data[i]!]!++;
      inAt = inEnd;
      outAt = outEnd;
    }
    const markOf = (array: Uint32Array, node: number, count: number, n: number): number =>
      count === 1 ? array[node]! : sides.data[array[node]! + n]!;
    const one = this.quantities.codeOf(1_000_000);
    const single = (code: number, flags: number): number => {
      record.set([1, 1, flags, code, one]);
      return pool.place(record, 5);
    };
    const given = this.numberedOutOfTheirLot(upCount, shapes, shape, inputs, outputs, markOf);
    for (let n = 0; n < this.memberSerial.length; n++) {
      const node = firstMember + n,
        serial = this.memberSerial.data[n]!,
        lot = this.memberLot.data[n]!;
      shape[node] = single(one, given.has(serial) ? NUMBERED : 0);
      inputs[node] = lot;
      outputs[node] = serial;
      downCount[lot]!++;
      upCount[serial]!++;
    }
    for (let n = 0; n < this.fitHost.length; n++) {
      const node = firstFitting + n;
      shape[node] = single(this.fitCode.data[n]!, 0);
      inputs[node] = this.fitComponent.data[n]!;
      outputs[node] = this.fitHost.data[n]!;
      downCount[inputs[node]!]!++;
      upCount[outputs[node]!]!++;
    }
    for (let n = 0; n < this.outHost.length; n++) {
      const node = firstRemoval + n;
      shape[node] = single(this.outCode.data[n]!, 0);
      inputs[node] = this.outHost.data[n]!;
      outputs[node] = this.outComponent.data[n]!;
      downCount[inputs[node]!]!++;
      upCount[outputs[node]!]!++;
    }

    // Words of every mark: one node stands in the word itself, more in a list.
    const lists = new Column();
    const words = (
      counts: Uint32Array,
      values: (into: (mark: number, value: number) => void) => void
    ): Uint32Array => {
      const word = shared(markCount),
        next = new Uint32Array(markCount);
      for (let mark = 0; mark < markCount; mark++) {
        if (counts[mark]! < 2) continue;
        word[mark] = (IS_LIST | lists.length) >>> 0;
        next[mark] = lists.length;
        lists.put(lists.length + counts[mark]! - 1, 0);
      }
      if (lists.length > MOST) throw new Error('The ledger is too large to pack.');
      values((mark, value) => {
        if (counts[mark] === 1) word[mark] = value + 1;
        else lists.data[next[mark]!++] = value;
      });
      for (let mark = 0; mark < markCount; mark++)
        if (counts[mark]! > 1)
          lists.data[next[mark]! - 1] = (lists.data[next[mark]! - 1]! | IS_LIST) >>> 0;
      return word;
    };
    const ofNodes =
      (array: Uint32Array, side: 0 | 1) => (into: (mark: number, value: number) => void) => {
        for (let node = 0; node < nodes; node++) {
          if (shape[node] === 0) continue;
          const count = shapes.data[shape[node]! + side]!;
          for (let n = 0; n < count; n++) into(markOf(array, node, count, n), node);
        }
      };
    const down = words(downCount, ofNodes(inputs, 0)),
      up = words(upCount, ofNodes(outputs, 1));
    const moveCount = new Uint32Array(markCount);
    for (let n = 0; n < this.entryMark.length; n++) moveCount[this.entryMark.data[n]!]!++;
    const moves = words(moveCount, (into) => {
      for (let n = 0; n < this.entryMark.length; n++)
        into(this.entryMark.data[n]!, this.entryCode.data[n]!);
    });

    this.reversed.sort((a, b) => a[0] - b[0]);
    const reversed = shared(this.reversed.length),
      reversedBy = shared(this.reversed.length);
    this.reversed.forEach(([tie, by], n) => {
      reversed[n] = tie;
      reversedBy[n] = by;
    });
    const at = new Float64Array(allocate(this.kinds.length * 8), 0, this.kinds.length);
    at.set(this.at.subarray(0, this.kinds.length));
    const ledger: Omit<PackedLedger, 'origin' | 'origins'> = {
      marks: narrowed(this.markWords, allocate),
      up,
      down,
      moves,
      lists: kept(lists),
      shape,
      event,
      inputs,
      outputs,
      sides: kept(sides),
      firstMember,
      firstFitting,
      firstRemoval,
      shapes: kept(shapes),
      quantities: big(this.quantities.values),
      shares: big(this.shares.values),
      entries: kept(this.entries),
      kinds: bytes(this.kinds),
      undoes: bytes(this.undoes),
      at,
      partners: kept(this.partners),
      people: kept(this.people),
      reversed,
      reversedBy,
      reversals: kept(this.reversals),
      undone: kept(this.undone)
    };
    const { origin, origins } = originsOf(ledger);
    return {
      ...ledger,
      origin: narrowed({ data: origin, length: origin.length }, allocate),
      origins: kept(origins)
    };
  }

  /**
   * Serials within a lot that got their number out of its own stock: they are tied to it by that
   * transformation already.
   */
  private numberedOutOfTheirLot(
    upCount: Uint32Array,
    shapes: Column,
    shape: Uint32Array,
    inputs: Uint32Array,
    outputs: Uint32Array,
    markOf: (array: Uint32Array, node: number, count: number, n: number) => number
  ): Set<number> {
    const lotOf = new Map<number, number>();
    for (let n = 0; n < this.memberSerial.length; n++)
      if (upCount[this.memberSerial.data[n]!]! > 0)
        lotOf.set(this.memberSerial.data[n]!, this.memberLot.data[n]!);
    const given = new Set<number>();
    if (lotOf.size === 0) return given;
    for (let node = 0; node < this.tieEvent.length; node++) {
      if (shape[node] === 0) continue;
      const ins = shapes.data[shape[node]!]!,
        outs = shapes.data[shape[node]! + 1]!;
      for (let o = 0; o < outs; o++) {
        const serial = markOf(outputs, node, outs, o),
          lot = lotOf.get(serial);
        if (lot === undefined) continue;
        for (let i = 0; i < ins; i++) if (markOf(inputs, node, ins, i) === lot) given.add(serial);
      }
    }
    return given;
  }
}

/** Half the room where every value fits into sixteen bits. */
function narrowed(
  { data, length }: { data: Uint32Array; length: number },
  allocate: Allocate
): Uint16Array | Uint32Array {
  let largest = 0;
  for (let n = 0; n < length; n++) if (data[n]! > largest) largest = data[n]!;
  const array =
    largest <= 0xffff
      ? new Uint16Array(allocate(length * 2), 0, length)
      : new Uint32Array(allocate(length * 4), 0, length);
  array.set(data.subarray(0, length));
  return array;
}
