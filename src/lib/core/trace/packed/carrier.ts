import { bringsIn } from '../mass-balance.ts';
import { contentOfMicro } from './amounts.ts';
import type { EventsOfTrace } from './event-order.ts';
import { Giving } from './giving.ts';
import { least, noAmounts } from './held.ts';
import { separates } from './host-presence.ts';
import { nodePlace } from './open-ledger.ts';
import { Outside } from './outside.ts';
import { settleOwn } from './own-content.ts';
import { KIND_OF_CODE } from './packed-ledger.ts';
import { ONE, PartsInside, type ContentQuestion } from './parts-inside.ts';

const NONE: readonly bigint[] = [];
const BRINGS_IN = Uint8Array.from(KIND_OF_CODE, (kind) => (bringsIn(kind) ? 1 : 0));

/** Carries content through the events of one trace; words as in core/trace/content-in-time.ts. */
export class Carrier {
  readonly reported: bigint[];
  private readonly quantity: bigint[];
  private readonly content: bigint[];
  /** What the event at hand moved, used and made, by place. */
  private readonly into: bigint[];
  private readonly out: bigint[];
  private readonly made: bigint[];
  private readonly back: Uint8Array;
  private readonly touched: number[] = [];
  private readonly isTouched: Uint8Array;
  private readonly giving: Giving;
  /** Of each node of the event at hand the one place it all goes to; −1 where it is looked at again. */
  private readonly only: number[] = [];
  private readonly onlyCode: number[] = [];
  /** Of each node of the event at hand what its inputs gave; kept where parts may come out again. */
  private readonly given: bigint[][] = [];
  private readonly outside: Outside;
  private readonly parts: PartsInside;
  private readonly begun = new Set<number>();
  private readonly from: ReadonlySet<number> | null;
  private readonly node = nodePlace();

  constructor(
    private readonly question: ContentQuestion,
    private readonly events: EventsOfTrace
  ) {
    const count = question.reached.marks.length;
    this.parts = new PartsInside(question, this.node, (place) => this.isOwn(place));
    this.reported = noAmounts(count);
    this.quantity = noAmounts(count);
    this.content = noAmounts(count);
    this.into = noAmounts(count);
    this.out = noAmounts(count);
    this.made = noAmounts(count);
    const { quantity, content } = this;
    this.giving = new Giving({ quantity, content }, (place) => this.isOwn(place));
    this.isTouched = new Uint8Array(count);
    this.back = new Uint8Array(count);
    this.from = question.cut.from ? new Set(question.cut.from) : null;
    this.outside = new Outside(question.ledger, events.ids);
  }

  /** @returns false where a mark would be below zero and that is not to be */
  carry(order: Uint32Array, strict: boolean): boolean {
    for (const number of order) if (!this.pass(number, strict)) return false;
    if (this.from === null) settleOwn(this.question, this.reported);
    return true;
  }

  private isOwn(place: number): boolean {
    return this.from === null && this.question.own[place] === 1;
  }

  private pass(number: number, strict: boolean): boolean {
    const event = this.events.ids[number]!;
    const { start, id } = this.events.nodes;
    const nodes = id.subarray(start[number], start[number + 1]);
    this.readMoved(number);
    this.startHere(event);
    const carried: bigint[] = [];
    this.given.length = 0;
    this.only.length = this.onlyCode.length = 0;
    let members = false;
    for (const node of nodes) {
      this.load(node);
      members = members || this.node.type === 'member';
      carried.push(this.takeFor(node));
      this.countMade(node);
      this.only.push(this.onlyPlace(node));
      this.onlyCode.push(this.node.outCodes[this.node.outCodesAt]!);
    }
    this.giving.settle();
    const good = this.takeRest(event, strict);
    if (good) {
      for (let n = 0; n < nodes.length; n++) {
        if (this.only[n]! >= 0) this.pourInto(this.only[n]!, this.onlyCode[n]!, carried[n]!);
        else this.pourNode(nodes[n]!, carried[n]!, this.given[n] ?? NONE);
      }
      for (const place of this.touched)
        if (this.into[place] !== this.made[place])
          this.bringRest(event, place, this.into[place]! - this.made[place]!);
      if (members) this.join(nodes);
      this.reportOwn(event);
    }
    this.forgetEvent();
    return good;
  }

  private load(node: number): void {
    this.question.ledger.load(node, this.node);
  }
  private place(mark: number): number {
    return this.question.reached.placeOf[mark]! - 1;
  }
  private touch(place: number): void {
    if (this.isTouched[place] === 1) return;
    this.isTouched[place] = 1;
    this.touched.push(place);
  }

  private readMoved(number: number): void {
    const { start, place, code } = this.events.moved;
    for (let n = start[number]!; n < start[number + 1]!; n++) {
      const at = place[n]!,
        amount = this.question.ledger.micro(code[n]!);
      this.touch(at);
      if (amount > 0n) this.into[at]! += amount;
      else this.out[at]! -= amount;
    }
  }

  private forgetEvent(): void {
    for (const place of this.touched) {
      this.into[place] = this.out[place] = this.made[place] = 0n;
      this.isTouched[place] = this.back[place] = 0;
      this.giving.forget(place);
    }
    this.touched.length = 0;
  }

  private startHere(event: number): void {
    if (!this.from?.has(event)) return;
    for (const place of this.touched) {
      const net = this.into[place]! - this.out[place]!;
      if (this.question.own[place] !== 1 || net > 0n || this.begun.has(place)) continue;
      this.begun.add(place);
      this.content[place] = contentOfMicro(this.quantity[place]!);
      this.reported[place]! += this.content[place]!;
    }
  }

  /** Takes what the loaded node uses; answers what of the root that was. */
  private takeFor(id: number): bigint {
    const { node } = this;
    const { ledger, reached } = this.question;
    // What each input gave is asked only where parts may come out again one day.
    const given: bigint[] | null = ledger.hasSeparated ? [] : null;
    if (given) this.given.push(given);
    if (node.type === 'member') return 0n;
    if (node.type === 'removed') return this.takeOut();
    const apart = separates(ledger, node);
    let carried = 0n;
    for (let i = 0; i < node.ins; i++) {
      if (!reached.keepsInput(id, node, i)) {
        given?.push(0n);
        continue;
      }
      const place = this.place(node.inputs[node.inAt + i]!),
        code = node.inCodes[node.inCodesAt + i]!,
        amount = ledger.micro(code);
      const part = this.giving.share(place, amount, code);
      this.touch(place);
      this.giving.take(place, code, amount, part);
      if (apart && !this.isOwn(place)) this.reported[place]! -= part;
      given?.push(part);
      carried += part;
    }
    return carried;
  }

  private takeOut(): bigint {
    this.giving.settle();
    const host = this.place(this.node.inputs[this.node.inAt]!);
    const content = this.parts.takeOut(host);
    this.content[host]! -= content;
    this.reported[host]! -= content;
    return content;
  }

  private takeRest(event: number, strict: boolean): boolean {
    for (const place of this.touched) {
      if (this.out[place] !== this.giving.used[place]) this.takeBeside(event, place);
      if (strict && this.quantity[place]! < 0n) return false;
    }
    return true;
  }

  /** What left a mark beside the nodes; what goes from one place to another is there before and after. */
  private takeBeside(event: number, place: number): void {
    const rest = this.out[place]! - this.giving.used[place]!;
    const stays =
      this.into[place] === this.made[place]
        ? 0n
        : least(rest, this.into[place]! - this.made[place]!);
    if (rest > stays) this.leave(event, place, rest - stays);
    if (stays === 0n) return;
    this.into[place]! -= stays;
    this.out[place]! -= stays;
  }

  /** Counts what the loaded node makes. */
  private countMade(id: number): void {
    const { node } = this;
    if (node.type === 'member' || node.type === 'fitted' || node.shared) return;
    for (let o = 0; o < node.outs; o++) {
      if (!this.question.reached.keepsOutput(id, node, o)) continue;
      const place = this.place(node.outputs[node.outAt + o]!);
      this.touch(place);
      this.made[place]! += this.parts.outMicro(o);
    }
  }

  /**
   * The place all that a node uses goes to, where that is one and nothing else is asked of it: as of
   * a thousand units built one by one.
   */
  private onlyPlace(id: number): number {
    const { node } = this;
    const { ledger, reached } = this.question;
    if (node.type !== 'made' || node.outs !== 1 || node.shared || ledger.hasSeparated) return -1;
    const mark = node.outputs[node.outAt]!;
    if (this.parts.isInput(mark) || !reached.keepsOutput(id, node, 0)) return -1;
    return this.place(mark);
  }

  private pourInto(place: number, code: number, carried: bigint): void {
    this.quantity[place]! += this.question.ledger.micro(code);
    if (this.isOwn(place)) return;
    this.content[place]! += carried;
    this.reported[place]! += carried;
  }

  private pourNode(id: number, carried: bigint, given: readonly bigint[]): void {
    this.load(id);
    const { node } = this;
    if (node.type === 'member') return;
    const { ledger, reached } = this.question;
    const apart = separates(ledger, node);
    const outs: number[] = [];
    for (let o = 0; o < node.outs; o++) if (reached.keepsOutput(id, node, o)) outs.push(o);
    const shares = apart ? this.parts.apart(id, outs, carried) : this.parts.spread(outs, carried);
    outs.forEach((o, n) => {
      const mark = node.outputs[node.outAt + o]!,
        place = this.place(mark);
      if (node.type !== 'fitted' && !node.shared) this.quantity[place]! += this.parts.outMicro(o);
      const known = apart && this.parts.isKnownPart(id, mark);
      if (known) this.back[place] = 1;
      if (this.isOwn(place)) return;
      const content = shares[n]!;
      this.content[place]! += content;
      if (!known)
        this.reported[place]! += this.parts.isInput(mark)
          ? content - this.giving.taken[place]!
          : content;
      if (!apart) this.parts.remember(place, mark, o, outs, given, content, carried);
    });
  }

  private leave(event: number, place: number, amount: bigint): void {
    const earlier = this.outside.undoing(event, place, amount);
    const content = earlier ?? this.giving.share(place, amount, -1);
    this.quantity[place]! -= amount;
    this.content[place]! -= content;
    if (earlier !== null) this.reported[place]! -= content;
    this.outside.left(event, place, amount, content);
  }

  private bringRest(event: number, place: number, amount: bigint): void {
    if (amount <= 0n) return;
    const content =
      this.outside.comesBack(event, place, amount) ?? this.startsWith(event, place, amount);
    this.quantity[place]! += amount;
    this.content[place]! += content;
    this.outside.came(event, place, amount, content);
  }

  /** What is traced, where that is what an event brought in. */
  private startsWith(event: number, place: number, amount: bigint): bigint {
    if (!this.from?.has(event) || this.question.own[place] !== 1) return 0n;
    const content = contentOfMicro(amount);
    this.reported[place]! += content;
    return content;
  }

  /** Serials that come to be within a lot share what is in it. */
  private join(nodes: Uint32Array): void {
    const born = new Map<number, number[]>();
    for (const id of nodes) {
      this.load(id);
      if (this.node.type !== 'member') continue;
      const lot = this.place(this.node.inputs[this.node.inAt]!),
        serial = this.place(this.node.outputs[this.node.outAt]!);
      const of = born.get(lot);
      if (of) of.push(serial);
      else born.set(lot, [serial]);
    }
    for (const [lot, serials] of born) {
      if (this.isOwn(lot) || this.content[lot]! <= 0n) continue;
      const each =
        (this.content[lot]! * ONE) / (this.quantity[lot]! + BigInt(serials.length) * ONE);
      for (const serial of serials) {
        this.content[serial]! += each;
        this.reported[serial]! += each;
        this.content[lot]! -= each;
      }
    }
  }

  /** Of a mark that is the root itself, all that came in counts. */
  private reportOwn(event: number): void {
    if (this.from !== null) return;
    const { ledger } = this.question;
    const undone = ledger.undoneBy(event);
    if (BRINGS_IN[undone > 0 ? ledger.eventKind(undone) : ledger.eventKind(event)] !== 1) return;
    for (const place of this.touched) {
      if (!this.isOwn(place) || this.back[place] === 1) continue;
      const net = this.into[place]! - this.out[place]!;
      if (undone > 0 ? net < 0n : net > 0n) this.reported[place]! += contentOfMicro(net);
    }
  }
}
