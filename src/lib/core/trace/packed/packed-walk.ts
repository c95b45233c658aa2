import type { Direction } from '../graph.ts';
import type { PackedCut, Reached } from './reached.ts';
import { Column } from './column.ts';
import { Holding } from './holding.ts';
import { PartedNodes } from './parted-nodes.ts';
import { PartFlow } from './part-flow.ts';
import { Labels } from './labels.ts';
import { levelsAnew } from './levels-anew.ts';
import { startOf } from './start-of.ts';
import { ITSELF, sameStay, WHOLE, within, type Stay } from './stays.ts';
import { nodePlace, type LoadedNode, type OpenLedger } from './open-ledger.ts';

const NO_CUT: PackedCut = {};
const EARLIEST = -Infinity;

/**
 * Walks through an open ledger; one for each thread, for it keeps arrays as large as the ledger.
 * Rules: core/trace/walk-in-time.ts, whose words are used here.
 */
export class Walker {
  private placeOf: Uint32Array;
  private nodeSeen: Uint8Array;
  private readonly marks = new Column();
  private readonly seen = new Column();
  private readonly nodes = new Column();
  private readonly list = new Column();
  private readonly node = nodePlace();
  readonly holding: Holding;
  private flow: PartFlow;
  private readonly labels = new Labels();
  /** Places that a node was closed to when they were looked at: looked at again where they become earlier. */
  private readonly refused = new Set<number>();
  private readonly again = new Set<number>();
  /** Stays in hosts that something was taken out of, by mark; other marks have a label. */
  private readonly stays = new Map<number, Stay[]>();
  private readonly partedNodes = new PartedNodes();
  private levelStarts: number[] = [];
  private down = true;
  private cut: PackedCut = NO_CUT;
  private clocks = true;
  private wholeRoots = true;
  private late = false;
  /** Whether something did not pass through a node that the rest went through. */
  private parted = false;
  /** Whether a node gone through has nothing on its far side. */
  private ledToNone = false;
  private excluded = new Set<number>();

  constructor(readonly ledger: OpenLedger) {
    this.placeOf = new Uint32Array(ledger.markBound + 1024);
    this.nodeSeen = new Uint8Array(ledger.nodeBound + 1024);
    this.holding = new Holding(ledger);
    this.flow = this.flowFor(WHOLE);
  }

  private flowFor(whole: number): PartFlow {
    const { down, clocks, cut } = this;
    return new PartFlow(this.ledger, this.holding, { down, clocks, cut, whole }, (mark) =>
      this.stays.get(mark)
    );
  }

  /**
   * Breadth first from the roots, every mark and node once, so loops end. Downstream: nodes a mark
   * went into to their outputs. Upstream is the mirror, and a root lot pulls in the serials within
   * it, for its origin is theirs; not with `pullIn: false`. A root taken apart has all that was in it
   * suspect; with `wholeRoots: false` only what nobody knows to have been a part of it.
   */
  walk(
    roots: readonly number[],
    direction: Direction,
    cut: PackedCut = NO_CUT,
    { pullIn = true, wholeRoots = true } = {}
  ): Reached {
    const { marks } = this;
    this.forget();
    this.down = direction === 'downstream';
    this.cut = cut;
    this.clocks = cut.clocks !== 'ignore';
    this.flow = this.flowFor(wholeRoots ? WHOLE : ITSELF);
    this.wholeRoots = wholeRoots;
    this.excluded = new Set(cut.withoutProducts);
    const starts = this.startRoots(roots);
    this.levelStarts = [0];
    for (let from = 0; from < marks.length;) {
      const to = marks.length;
      this.levelStarts.push(to);
      for (let at = from; at < to; at++) {
        this.lookAt(marks.data[at]!);
        if (from === 0 && !this.down && pullIn) this.pullIn(marks.data[at]!, starts);
      }
      this.lookAgain();
      from = to;
    }
    if (this.late) this.levelAgain(pullIn);
    this.keepWhole();
    return this.reached();
  }

  private reached(): Reached {
    const { marks, levelStarts, nodes, placeOf } = this;
    return {
      marks,
      levelStarts,
      nodes,
      placeOf,
      counts: (mark, event) => this.counts(mark, event),
      keepsInput: (id, node, at) => this.keeps(id, node, node.inputs[node.inAt + at]!, this.down),
      keepsOutput: (id, node, at) =>
        this.keeps(id, node, node.outputs[node.outAt + at]!, !this.down),
      isInAtTheEnd: (mark) => this.isInAtTheEnd(mark),
      presenceOf: (host) => this.flow.presenceOf(host),
      cleared: this.clocks && (this.refused.size > 0 || this.parted)
    };
  }

  /** Puts the roots at level 0, each at its start. @returns the clocks they start at */
  private startRoots(roots: readonly number[]): Map<number, { happened: number; booked: number }> {
    const starts = new Map<number, { happened: number; booked: number }>();
    for (const root of roots) {
      if (this.ledger.markWord(root) === 0) continue;
      const at = startOf(this.ledger, this.flow, root, this.cut);
      starts.set(root, at);
      this.visit(root, this.rootStay(at));
    }
    return starts;
  }

  private isInAtTheEnd(mark: number): boolean {
    const stays = this.stays.get(mark);
    if (!stays) return true;
    const apart = this.flow.takenApartBy(mark);
    if (apart === 0) return stays.some((stay) => !stay.to);
    return this.counts(mark, apart);
  }

  /** The serials of a root lot, for its origin is theirs. */
  private pullIn(
    lot: number,
    starts: ReadonlyMap<number, { happened: number; booked: number }>
  ): void {
    const at = starts.get(lot) ?? { happened: EARLIEST, booked: EARLIEST };
    for (const serial of this.holding.membersOf(lot, this.cut.until, true))
      this.visit(serial, this.rootStay(at));
  }

  private rootStay(at: { happened: number; booked: number }): Stay {
    return { ...at, to: null, through: this.wholeRoots ? WHOLE : ITSELF, only: null };
  }

  /** Something traced comes to a mark, or a mark is looked into. */
  private visit(mark: number, stay: Stay): void {
    const known = this.placeOf[mark]!;
    if (known === 0) {
      this.marks.push(mark);
      this.placeOf[mark] = this.marks.length;
      this.labels.set(this.marks.length - 1, stay.happened, stay.booked);
      if (this.flow.isHost(mark)) this.stays.set(mark, [stay]);
      return;
    }
    if (this.flow.isHost(mark)) {
      const stays = this.stays.get(mark)!;
      if (stays.some((one) => sameStay(one, stay))) return;
      stays.push(stay);
      this.again.add(mark);
    } else if (
      this.labels.lower(known - 1, stay.happened, stay.booked) &&
      this.refused.has(known - 1)
    )
      this.again.add(mark);
  }

  private covers(mark: number, happened: number, booked: number): boolean {
    if (!this.clocks) return true;
    const stays = this.stays.size > 0 ? this.stays.get(mark) : undefined;
    if (stays) return stays.some((stay) => within(stay, happened, booked));
    return this.labels.covers(this.placeOf[mark]! - 1, happened, booked);
  }

  /** Whether what a mark did in an event belongs to the trace. */
  private counts(mark: number, event: number): boolean {
    return (
      !this.clocks || this.covers(mark, this.flow.happenedAt(event), this.flow.bookedAt(event))
    );
  }

  private lookAt(mark: number): void {
    const { ledger, list, node } = this;
    if (this.down) ledger.nodesDown(mark, list);
    else ledger.nodesUp(mark, list);
    for (let n = 0; n < list.length; n++) {
      const id = list.data[n]!;
      const seen = this.nodeSeen[id] === 1;
      // Gone through from another mark: of this one it may have been cleared all the same.
      if (seen && !(this.clocks && this.refused.size === 0)) continue;
      ledger.load(id, node);
      if (seen) {
        if (!this.counts(mark, node.event)) this.refused.add(this.placeOf[mark]! - 1);
        continue;
      }
      if (!this.holding.holds(id, node, this.cut)) continue;
      if (!this.counts(mark, node.event)) {
        this.refused.add(this.placeOf[mark]! - 1);
        continue;
      }
      if (this.clocks && this.flow.isParted(node)) this.goInParts(id, mark);
      else this.goThrough(id);
    }
  }

  private goThrough(id: number): void {
    const { node } = this;
    this.nodeSeen[id] = 1;
    this.seen.push(id);
    const stay = this.flow.plainStay(node.event);
    if ((this.down ? node.outs : node.ins) === 0) this.ledToNone = true;
    if (this.down) {
      for (let o = 0; o < node.outs; o++) this.enter(node.outputs[node.outAt + o]!, stay);
    } else for (let i = 0; i < node.ins; i++) this.enter(node.inputs[node.inAt + i]!, stay);
  }

  /** A lot and the serials within it are of one product: what holds for the one holds for both. */
  private enter(other: number, stay: Stay): void {
    if (this.goesInto(other)) this.visit(other, stay);
  }
  private goesInto(other: number): boolean {
    if (this.excluded.size === 0 || this.node.type === 'member') return true;
    return !this.excluded.has(this.ledger.productOf(other));
  }

  /** Goes through a loaded node from one mark, asking of each on the other side whether it may. */
  private goInParts(id: number, mark: number): void {
    const { node } = this;
    for (const other of this.farSide()) {
      const flow = this.flow.flows(id, node, mark, other);
      if (!flow) this.parted = true;
      if (!flow || !this.goesInto(other)) continue;
      if (this.nodeSeen[id] === 0) this.seen.push(id);
      this.nodeSeen[id] = 2;
      this.partedNodes.add(id, mark, other);
      if (flow !== 'itself') this.visit(other, flow);
    }
  }

  /** The marks on the far side of the loaded node. */
  private farSide(): Uint32Array {
    const { outputs, outAt, outs, inputs, inAt, ins } = this.node;
    return this.down ? outputs.slice(outAt, outAt + outs) : inputs.slice(inAt, inAt + ins);
  }

  /** Marks that became earlier, or got another stay: nodes that were closed to them may be open. */
  private lookAgain(): void {
    for (const mark of this.again) {
      this.again.delete(mark);
      this.late = true;
      this.lookAt(mark);
    }
  }

  /** Levels anew over all that was gone through: the walk came to some of it later than its distance. */
  private levelAgain(pullIn: boolean): void {
    const { marks, placeOf, down } = this;
    const old = marks.data.slice(0, marks.length);
    const roots = this.levelStarts[1] ?? 0;
    const { places, levelStarts } = levelsAnew(old, roots, placeOf, (mark, isRoot, visit) => {
      this.across(mark, visit);
      if (!isRoot || down || !pullIn) return;
      for (const serial of this.holding.membersOf(mark, this.cut.until, true)) visit(serial);
    });
    this.labels.reorder(places);
    places.forEach((place, n) => {
      marks.data[n] = old[place]!;
      placeOf[old[place]!] = n + 1;
    });
    this.levelStarts = levelStarts;
  }

  /** The marks that nodes gone through lead to from a mark. */
  private across(mark: number, visit: (other: number) => void): void {
    const { ledger, list, node, down } = this;
    if (down) ledger.nodesDown(mark, list);
    else ledger.nodesUp(mark, list);
    for (const id of list.data.slice(0, list.length)) {
      if (this.nodeSeen[id] === 0) continue;
      ledger.load(id, node);
      if (!this.keeps(id, node, mark, true)) continue;
      const led = this.partedNodes.ledTo(id, mark);
      if (led) led.forEach(visit);
      else for (const other of this.farSide()) if (this.keeps(id, node, other, false)) visit(other);
    }
  }

  /** Whether a mark on the near, or the far, side of a loaded node belongs to the trace. */
  private keeps(id: number, node: LoadedNode, mark: number, near: boolean): boolean {
    if (this.placeOf[mark] === 0) return false;
    if (this.refused.size === 0 && this.partedNodes.size === 0) return true;
    const wentThrough = this.partedNodes.has(id, mark, near);
    return wentThrough ?? (!near || this.counts(mark, node.event));
  }

  /** Nodes that a cut left only one side pass nothing on. */
  private keepWhole(): void {
    const { node } = this;
    if (this.isAllWhole()) {
      this.nodes.take(this.seen);
      return;
    }
    for (let n = 0; n < this.seen.length; n++) {
      const id = this.seen.data[n]!;
      this.ledger.load(id, node);
      let ins = false,
        outs = false;
      for (let i = 0; i < node.ins && !ins; i++)
        ins = this.keeps(id, node, node.inputs[node.inAt + i]!, this.down);
      for (let o = 0; o < node.outs && !outs; o++)
        outs = this.keeps(id, node, node.outputs[node.outAt + o]!, !this.down);
      if (ins && outs) this.nodes.push(id);
    }
  }

  /** Whether every node gone through led from a mark that counts to marks that all were entered. */
  private isAllWhole(): boolean {
    const { refused, partedNodes, excluded, ledToNone } = this;
    return refused.size === 0 && partedNodes.size === 0 && excluded.size === 0 && !ledToNone;
  }

  /** Clears what the last walk left, and makes room for what was added since. */
  private forget(): void {
    for (let n = 0; n < this.marks.length; n++) this.placeOf[this.marks.data[n]!] = 0;
    for (let n = 0; n < this.seen.length; n++) this.nodeSeen[this.seen.data[n]!] = 0;
    this.marks.clear();
    this.seen.clear();
    this.nodes.clear();
    this.refused.clear();
    this.again.clear();
    this.stays.clear();
    this.partedNodes.clear();
    this.late = false;
    this.parted = false;
    this.ledToNone = false;
    if (this.placeOf.length < this.ledger.markBound)
      this.placeOf = new Uint32Array(this.ledger.markBound + 4096);
    if (this.nodeSeen.length < this.ledger.nodeBound)
      this.nodeSeen = new Uint8Array(this.ledger.nodeBound + 4096);
  }
}
