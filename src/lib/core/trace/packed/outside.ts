import { add, least, nothing, partOf, type Held } from './held.ts';
import type { OpenLedger } from './open-ledger.ts';
import { eventKindCode } from './packed-ledger.ts';

const SHIP = eventKindCode('ship'),
  RETURN = eventKindCode('return');

/** What left the marks of a trace and may come back: with customers, or by a reversal. */
export class Outside {
  private readonly pools = new Map<string, Held>();
  /** What events that are taken back took and brought, beside what was gone through. */
  private readonly took = new Map<string, Held>();
  private readonly brought = new Map<string, Held>();
  private readonly undone = new Set<number>();
  /** Whether anything comes back from customers: otherwise nobody asks what they have. */
  private comesBackAtAll = false;

  constructor(
    private readonly ledger: OpenLedger,
    events: Uint32Array
  ) {
    for (const event of events) {
      const undone = ledger.undoneBy(event);
      if (undone > 0) this.undone.add(undone);
      if (undone > 0 || ledger.eventKind(event) === RETURN) this.comesBackAtAll = true;
    }
  }

  left(event: number, place: number, amount: bigint, content: bigint): void {
    if (!this.comesBackAtAll) return;
    if (this.ledger.eventKind(event) === SHIP)
      add(this.pool(place, this.ledger.eventPartner(event)), amount, content);
    if (this.undone.has(event)) this.took.set(`${event} ${place}`, { quantity: amount, content });
  }

  came(event: number, place: number, amount: bigint, content: bigint): void {
    if (this.undone.size > 0 && this.undone.has(event))
      this.brought.set(`${event} ${place}`, { quantity: amount, content });
  }

  /** What a reversal takes away of what the event it undoes brought; null where it is none. */
  undoing(event: number, place: number, amount: bigint): bigint | null {
    const undone = this.ledger.undoneBy(event);
    const earlier = undone > 0 ? this.brought.get(`${undone} ${place}`) : undefined;
    return earlier ? partOf(earlier, amount) : null;
  }

  /** What a return or a reversal brings back; null for other events. */
  comesBack(event: number, place: number, amount: bigint): bigint | null {
    const { ledger } = this;
    if (ledger.eventKind(event) === RETURN) {
      const pool = this.pool(place, ledger.eventPartner(event));
      const back = partOf(pool, amount);
      add(pool, -least(amount, pool.quantity), -back);
      return back;
    }
    const undone = ledger.undoneBy(event);
    if (undone === 0) return null;
    const earlier = this.took.get(`${undone} ${place}`);
    const back = earlier ? partOf(earlier, amount) : 0n;
    if (earlier && ledger.eventKind(undone) === SHIP)
      add(this.pool(place, ledger.eventPartner(undone)), -amount, -back);
    return back;
  }

  private pool(place: number, partner: number): Held {
    const key = `${place} ${partner}`;
    let there = this.pools.get(key);
    if (!there) this.pools.set(key, (there = nothing()));
    return there;
  }
}
