import { Column } from './column.ts';
import { nodePlace, type LoadedNode, type OpenLedger } from './open-ledger.ts';
import { KIND_OF_CODE } from './packed-ledger.ts';
import type { PackedCut } from './reached.ts';

const NO_CUT: PackedCut = {};

/** Which nodes of a ledger count where a trace is cut, and which serials are within a lot. */
export class Holding {
  private readonly other = new Column(16);
  private readonly node = nodePlace();
  private readonly second = nodePlace();

  constructor(private readonly ledger: OpenLedger) {}

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
    return until === undefined || ledger.eventAt(node.event) <= until;
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
}
