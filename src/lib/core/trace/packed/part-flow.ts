import type { Presence } from '../presence.ts';
import { Column } from './column.ts';
import type { Holding } from './holding.ts';
import { hostPresence, isSingle, partKey, separates } from './host-presence.ts';
import { nodePlace, type LoadedNode, type OpenLedger } from './open-ledger.ts';
import type { PackedCut } from './reached.ts';
import { isBefore, ITSELF, WHOLE, type Flow, type Stay, within } from './stays.ts';

const NO_CUT: PackedCut = {};
const EARLIEST = -Infinity;

/** How a walk is asked. */
export interface Asking {
  down: boolean;
  clocks: boolean;
  cut: PackedCut;
  /** What a root taken apart passes on: WHOLE or ITSELF. */
  whole: number;
}

/**
 * The clocks of one walk, and what of a host goes over where parts come out of it: a part as what
 * it was, the rest to what nobody knew of.
 */
export class PartFlow {
  private readonly list = new Column(16);
  private readonly node = nodePlace();
  private readonly presences = new Map<number, Presence>();
  readonly down: boolean;
  private readonly clocks: boolean;
  private readonly cut: PackedCut;
  private readonly whole: number;

  /** @param staysIn what is in a host so far; nothing for other marks */
  constructor(
    private readonly ledger: OpenLedger,
    private readonly holding: Holding,
    { down, clocks, cut, whole }: Asking,
    private readonly staysIn: (mark: number) => readonly Stay[] | undefined
  ) {
    this.down = down;
    this.clocks = clocks;
    this.cut = cut;
    this.whole = whole;
  }

  plainStay(event: number): Stay {
    return {
      happened: this.clocks ? this.happenedAt(event) : EARLIEST,
      booked: this.clocks ? this.bookedAt(event) : EARLIEST,
      to: null,
      through: this.whole,
      only: null
    };
  }

  /**
   * The time a unit is looked at upstream: now; for one that was taken apart and is no more, when
   * that was done.
   */
  lookedAt(root: number): { happened: number; booked: number } {
    const now = { happened: EARLIEST, booked: EARLIEST };
    const apart = this.takenApartBy(root);
    return apart === 0 ? now : { happened: this.happenedAt(apart), booked: this.bookedAt(apart) };
  }

  /** The event by which a unit was taken apart and is no more; 0 where it is there. */
  takenApartBy(root: number): number {
    if (!this.ledger.isSeparated(root) || !isSingle(this.ledger, root)) return 0;
    let last = 0,
      apart = false;
    const look = (entering: boolean): void => {
      for (let n = 0; n < this.list.length; n++) {
        this.ledger.load(this.list.data[n]!, this.node);
        if (!this.holding.holds(this.list.data[n]!, this.node, this.cut)) continue;
        if (this.node.event < last) continue;
        last = this.node.event;
        apart = entering && this.node.type === 'made' && separates(this.ledger, this.node);
      }
    };
    this.ledger.nodesUp(root, this.list);
    look(false);
    this.ledger.nodesDown(root, this.list);
    look(true);
    return apart ? last : 0;
  }

  happenedAt(event: number): number {
    const at = this.ledger.eventAt(event);
    return this.down ? at : -at;
  }
  bookedAt(event: number): number {
    return this.down ? event : -event;
  }

  isHost(mark: number): boolean {
    return this.clocks && this.ledger.isSeparated(mark);
  }

  /** Whether parts that pass through a loaded node are followed each by itself. */
  isParted(node: LoadedNode): boolean {
    const { ledger } = this;
    if (!ledger.hasSeparated) return false;
    if (separates(ledger, node)) return true;
    for (let o = 0; o < node.outs; o++)
      if (ledger.isSeparated(node.outputs[node.outAt + o]!)) return true;
    return false;
  }

  /** What goes over from one mark to another; a unit reworked keeps what it had, as it had it. */
  flows(id: number, node: LoadedNode, mark: number, other: number): Flow {
    if (mark === other && this.isHost(mark)) return 'itself';
    return this.down ? this.flowsDown(id, node, mark, other) : this.flowsUp(id, node, mark, other);
  }

  private flowsDown(id: number, node: LoadedNode, mark: number, other: number): Flow {
    const plain = this.plainStay(node.event);
    if (node.type === 'member') return plain;
    if (!separates(this.ledger, node))
      return { ...plain, to: this.closing(id, mark, other), through: mark };
    const clear = this.clearStays(mark, node.event);
    if (clear.some((stay) => this.passesApart(id, node, stay, mark, other))) return plain;
    return clear.some((stay) => stay.through === other) ? 'itself' : null;
  }

  private passesApart(
    id: number,
    node: LoadedNode,
    stay: Stay,
    host: number,
    other: number
  ): boolean {
    if (stay.through === WHOLE) return true;
    if (node.type === 'removed') return false;
    const apart = this.presenceOf(host).apart.get(String(id));
    if (stay.through === ITSELF) return !apart?.inside.has(other);
    return !!apart && !apart.inside.has(other) && apart.unaccounted.has(stay.through);
  }

  private flowsUp(id: number, node: LoadedNode, mark: number, other: number): Flow {
    const plain = this.plainStay(node.event);
    if (node.type === 'member') return plain;
    if (node.type === 'removed') return null;
    if (separates(this.ledger, node)) {
      const apart = this.presenceOf(other).apart.get(String(id));
      if (apart?.inside.has(mark)) return null;
      return { ...plain, only: apart?.unaccounted ?? null };
    }
    const closed = this.closing(id, other, mark);
    const there = this.clearStays(mark, node.event).some(
      (stay) => (stay.only === null || stay.only.has(other)) && !(closed && isBefore(stay, closed))
    );
    return there ? plain : null;
  }

  /** The stays in a mark that an event is within; of a mark with a label alone, that. */
  private clearStays(mark: number, event: number): Stay[] {
    const stays = this.staysIn(mark);
    if (!stays) return [this.plainStay(event)];
    return stays.filter((stay) => within(stay, this.happenedAt(event), this.bookedAt(event)));
  }

  private closing(id: number, part: number, host: number): Stay['to'] {
    if (!this.isHost(host)) return null;
    const event = this.presenceOf(host).closedBy.get(partKey(id, part, host));
    if (event === undefined) return null;
    return { happened: this.happenedAt(event), booked: this.bookedAt(event) };
  }

  presenceOf(host: number): Presence {
    let known = this.presences.get(host);
    if (!known) {
      const { until } = this.cut;
      const cut = until === undefined ? NO_CUT : { until };
      known = hostPresence(this.ledger, host, (id, node) => this.holding.holds(id, node, cut));
      this.presences.set(host, known);
    }
    return known;
  }
}
