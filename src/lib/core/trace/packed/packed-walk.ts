import type { Direction } from '../graph.ts';
import { Column } from './column.ts';
import { KIND_OF_CODE } from './packed-ledger.ts';
import { nodePlace, type LoadedNode, type OpenLedger } from './open-ledger.ts';

/**
 * Where a walk is cut: what had happened by an instant (microseconds since 2000-01-01), products
 * not gone into (ids), kinds of event not gone through.
 */
export interface PackedCut {
  until?: number;
  withoutProducts?: readonly number[];
  withoutKinds?: readonly string[];
}

/** What a walk reached. Arrays are the walker's own and good until its next walk. */
export interface Reached {
  /** Marks in the order of the walk, roots first; those there are. */
  marks: Column;
  /** Where in `marks` each level begins. */
  levelStarts: number[];
  /** Nodes gone through that keep an input and an output in what was reached. */
  nodes: Column;
  /** Place of a mark in `marks` + 1; 0 where it was not reached. */
  placeOf: Uint32Array;
}

const NO_CUT: PackedCut = {};

/**
 * Walks through an open ledger; one for each thread, for it keeps arrays as large as the ledger.
 */
export class Walker {
  private placeOf: Uint32Array;
  private nodeSeen: Uint8Array;
  private readonly marks = new Column();
  private readonly seen = new Column();
  private readonly nodes = new Column();
  private readonly list = new Column();
  private readonly other = new Column(16);
  private readonly node = nodePlace();
  private readonly second = nodePlace();

  constructor(readonly ledger: OpenLedger) {
    this.placeOf = new Uint32Array(ledger.markBound + 1024);
    this.nodeSeen = new Uint8Array(ledger.nodeBound + 1024);
  }

  /**
   * Breadth first from the roots, every mark and node once, so loops end. Downstream: nodes a mark
   * went into to their outputs. Upstream is the mirror, and a root lot pulls in the serials within
   * it, for its origin is theirs; not with `pullIn: false`.
   */
  walk(
    roots: readonly number[],
    direction: Direction,
    cut: PackedCut = NO_CUT,
    { pullIn = true } = {}
  ): Reached {
    const { ledger, marks, node, list } = this;
    this.forget();
    const down = direction === 'downstream';
    const excluded = new Set(cut.withoutProducts);
    // A lot and the serials within it are of one product: what holds for the one holds for the
    // others.
    const goesInto = (mark: number) =>
      excluded.size === 0 || node.type === 'member' || !excluded.has(ledger.productOf(mark));
    const visit = (mark: number): void => {
      if (this.placeOf[mark] !== 0) return;
      marks.push(mark);
      this.placeOf[mark] = marks.length;
    };
    for (const root of roots) if (ledger.markWord(root) > 0) visit(root);
    const levelStarts = [0];
    for (let from = 0, first = true; from < marks.length; first = false) {
      const to = marks.length;
      levelStarts.push(to);
      for (let at = from; at < to; at++) {
        const mark = marks.data[at]!;
        if (down) ledger.nodesDown(mark, list);
        else ledger.nodesUp(mark, list);
        for (let n = 0; n < list.length; n++) {
          const id = list.data[n]!;
          if (this.nodeSeen[id] !== 0) continue;
          ledger.load(id, node);
          if (!this.holds(id, node, cut)) continue;
          this.nodeSeen[id] = 1;
          this.seen.push(id);
          if (down) {
            for (let o = 0; o < node.outs; o++) {
              const other = node.outputs[node.outAt + o]!;
              if (goesInto(other)) visit(other);
            }
          } else
            for (let i = 0; i < node.ins; i++) {
              const other = node.inputs[node.inAt + i]!;
              if (goesInto(other)) visit(other);
            }
        }
        if (!down && first && pullIn)
          for (const serial of this.membersOf(mark, cut.until, true)) visit(serial);
      }
      from = to;
    }
    this.keepWhole();
    return { marks, levelStarts, nodes: this.nodes, placeOf: this.placeOf };
  }

  /** Whether a node holds and is gone through. */
  holds(id: number, node: LoadedNode, cut: PackedCut): boolean {
    const { ledger } = this,
      { until, withoutKinds } = cut;
    if (node.type === 'made') {
      const by = ledger.takenBackBy(id);
      if (by > 0 && (until === undefined || ledger.eventAt(by) <= until)) return false;
      if (until !== undefined && ledger.eventAt(node.event) > until) return false;
      return (
        !withoutKinds?.length || !withoutKinds.includes(KIND_OF_CODE[ledger.eventKind(node.event)]!)
      );
    }
    if (node.type === 'member')
      return (
        (until === undefined || ledger.eventAt(node.event) <= until) &&
        !(node.numbered && this.cameOutOf(node.outputs[node.outAt]!, node.inputs[node.inAt]!, cut))
      );
    return true;
  }

  /**
   * Whether a serial got its number out of its lot's own stock by a transformation that holds: then
   * it is no member beside it.
   */
  private cameOutOf(serial: number, lot: number, cut: PackedCut): boolean {
    this.ledger.nodesUp(serial, this.other);
    for (let n = 0; n < this.other.length; n++) {
      const id = this.other.data[n]!;
      this.ledger.load(id, this.second);
      if (this.second.type !== 'made' || !this.holds(id, this.second, cut)) continue;
      for (let i = 0; i < this.second.ins; i++)
        if (this.second.inputs[this.second.inAt + i] === lot) return true;
    }
    return false;
  }

  /**
   * The serials within a lot.
   * @param numbered those too that got their number out of its own stock
   */
  membersOf(lot: number, until: number | undefined, numbered: boolean): number[] {
    const found: number[] = [],
      nodes = new Column(16);
    this.ledger.nodesDown(lot, nodes);
    for (let n = 0; n < nodes.length; n++) {
      const id = nodes.data[n]!;
      this.ledger.load(id, this.node);
      if (
        this.node.type !== 'member' ||
        (until !== undefined && this.ledger.eventAt(this.node.event) > until)
      )
        continue;
      const serial = this.node.outputs[this.node.outAt]!;
      if (
        numbered ||
        !this.node.numbered ||
        !this.cameOutOf(serial, lot, until === undefined ? NO_CUT : { until })
      )
        found.push(serial);
    }
    return found;
  }

  /**
   * Upstream a member node is seen from the serial; where its lot is a root the node is gone
   * through from there too. Nodes that a cut left only one side pass nothing on.
   */
  private keepWhole(): void {
    const { node } = this;
    for (let n = 0; n < this.seen.length; n++) {
      const id = this.seen.data[n]!;
      this.ledger.load(id, node);
      let ins = false,
        outs = false;
      for (let i = 0; i < node.ins && !ins; i++)
        ins = this.placeOf[node.inputs[node.inAt + i]!] !== 0;
      for (let o = 0; o < node.outs && !outs; o++)
        outs = this.placeOf[node.outputs[node.outAt + o]!] !== 0;
      if (ins && outs) this.nodes.push(id);
    }
  }

  /** Clears what the last walk left, and makes room for what was added since. */
  private forget(): void {
    for (let n = 0; n < this.marks.length; n++) this.placeOf[this.marks.data[n]!] = 0;
    for (let n = 0; n < this.seen.length; n++) this.nodeSeen[this.seen.data[n]!] = 0;
    this.marks.clear();
    this.seen.clear();
    this.nodes.clear();
    if (this.placeOf.length < this.ledger.markBound)
      this.placeOf = new Uint32Array(this.ledger.markBound + 4096);
    if (this.nodeSeen.length < this.ledger.nodeBound)
      this.nodeSeen = new Uint8Array(this.ledger.nodeBound + 4096);
  }
}

/** Levels by place in `marks`, from where each level begins. */
export function levelsOf({
  marks,
  levelStarts
}: {
  marks: { length: number };
  levelStarts: readonly number[];
}): Uint32Array {
  const levels = new Uint32Array(marks.length);
  levelStarts.forEach((start, level) => {
    levels.fill(level, start, levelStarts[level + 1] ?? marks.length);
  });
  return levels;
}
