import { groupBy } from '../group-by.ts';
import { quantity, ZERO, type Quantity } from '../quantity/quantity.ts';
import type { CarriedEvent, ContentQuestion } from './content-question.ts';
import { add, exact, least, nothing, partOf, type Held } from './held-in-time.ts';
import { bringsIn } from './mass-balance.ts';
import { passagesOf, type Passage } from './passages.ts';
import { PartsInTime } from './parts-in-time.ts';

/** Carries content through the events of one trace, one after the other. */
export class CarryInTime {
  readonly reported = new Map<number, Quantity>();
  private readonly passages: Map<number, Passage[]>;
  private readonly movements: Map<number, { event: number; mark: number; quantity: string }[]>;
  private readonly eventOf: Map<number, CarriedEvent>;
  private readonly undone: Set<number>;
  private readonly held = new Map<number, Held>();
  private readonly begun = new Set<number>();
  private readonly pools = new Map<string, Held>();
  private readonly parts: PartsInTime;
  /** What the events that are taken back took and brought beside what was gone through. */
  private readonly took = new Map<string, Held>();
  private readonly brought = new Map<string, Held>();
  private readonly marks: ReadonlySet<number>;
  private readonly own: ReadonlySet<number>;
  private readonly from: ReadonlySet<number> | null;

  /** @param strict whether no mark may be below zero */
  constructor(
    private readonly question: ContentQuestion,
    private readonly ordered: readonly CarriedEvent[],
    private readonly strict: boolean
  ) {
    const { marks, own, from } = question;
    this.marks = marks;
    this.own = own;
    this.from = from;
    this.parts = new PartsInTime(question, (mark) => this.isOwn(mark));
    this.passages = groupBy(passagesOf(question.graph), (one) => one.event);
    this.movements = groupBy(
      question.movements.filter((row) => marks.has(row.mark)),
      (row) => row.event
    );
    this.eventOf = new Map(ordered.map((event) => [event.id, event]));
    this.undone = new Set(ordered.flatMap((event) => event.undone ?? []));
  }

  /** @returns false where a mark would be below zero and that is not to be */
  carry(): boolean {
    for (const event of this.ordered) if (!this.pass(event)) return false;
    for (const [mark, amount] of this.reported)
      if (this.isOwn(mark) && this.question.single(mark) && amount.gt(1))
        this.reported.set(mark, quantity(1));
    this.countMembers();
    return true;
  }

  /** A root lot comes to what was kept of it as such, and the serials within it. */
  private countMembers(): void {
    for (const { lot, serial } of this.question.graph.members)
      if (this.isOwn(lot) && this.isOwn(serial))
        this.report(lot, this.reported.get(serial) ?? ZERO);
  }

  private isOwn(mark: number): boolean {
    return this.from === null && this.own.has(mark);
  }
  private at(mark: number): Held {
    let there = this.held.get(mark);
    if (!there) this.held.set(mark, (there = nothing()));
    return there;
  }
  private report(mark: number, amount: Quantity): void {
    this.reported.set(mark, (this.reported.get(mark) ?? ZERO).plus(amount));
  }

  private pass(event: CarriedEvent): boolean {
    const here = (this.passages.get(event.id) ?? []).filter((one) => one.type !== 'member');
    const moved = movedIn(this.movements.get(event.id) ?? []);
    this.startHere(event, moved);
    const start = new Map<number, Held>();
    const share = (mark: number, amount: Quantity): Quantity => {
      if (!start.has(mark)) start.set(mark, { ...this.at(mark) });
      const { quantity: whole, content } = start.get(mark)!;
      if (this.isOwn(mark)) return amount;
      return whole.lte(0) ? content : content.times(least(amount, whole)).div(whole);
    };
    const used = new Map<number, Quantity>(),
      made = new Map<number, Quantity>(),
      taken = new Map<number, Quantity>();
    const poured = here.map((passage) => this.takeFor(passage, share, used, taken));
    if (!this.takeRest(event, moved, used, made, share, here)) return false;
    here.forEach((passage, n) => this.pour(passage, poured[n]!, taken));
    for (const [mark, { into }] of moved)
      this.bringRest(event, mark, into.minus(made.get(mark) ?? ZERO));
    this.join((this.passages.get(event.id) ?? []).filter((one) => one.type === 'member'));
    this.reportOwn(event, moved, here);
    return true;
  }

  /** Where what is traced is what was in a mark when this event took of it, and not what it brought. */
  private startHere(event: CarriedEvent, moved: ReadonlyMap<number, { all: Quantity }>): void {
    if (!this.from?.has(event.id)) return;
    for (const [mark, { all }] of moved) {
      if (!this.own.has(mark) || all.gt(0) || this.begun.has(mark)) continue;
      this.begun.add(mark);
      this.at(mark).content = this.at(mark).quantity;
      this.report(mark, this.at(mark).quantity);
    }
  }

  /** Takes what a passage uses; answers what of the root each of its inputs gave. */
  private takeFor(
    passage: Passage,
    share: (mark: number, amount: Quantity) => Quantity,
    used: Map<number, Quantity>,
    taken: Map<number, Quantity>
  ): Quantity[] {
    return passage.ins.map(({ mark, quantity: amount }) => {
      const whole = exact(amount);
      if (passage.type === 'removed') return this.takeOut(mark, passage.outs[0]!.mark, whole);
      const part = share(mark, whole);
      used.set(mark, (used.get(mark) ?? ZERO).plus(whole));
      taken.set(mark, (taken.get(mark) ?? ZERO).plus(part));
      const there = this.at(mark);
      there.quantity = there.quantity.minus(whole);
      there.content = there.content.minus(part);
      if (passage.separates && !this.isOwn(mark)) this.report(mark, part.negated());
      return part;
    });
  }

  /** A part comes out of a unit with the content it has in it. */
  private takeOut(host: number, part: number, amount: Quantity): Quantity {
    const content = this.parts.takeOut(host, part, amount);
    this.at(host).content = this.at(host).content.minus(content);
    this.report(host, content.negated());
    return content;
  }

  /** What leaves a mark beside the passages: shipped, scrapped, lost, used by what is not traced. */
  private takeRest(
    event: CarriedEvent,
    moved: ReadonlyMap<number, { into: Quantity; out: Quantity }>,
    used: ReadonlyMap<number, Quantity>,
    made: Map<number, Quantity>,
    share: (mark: number, amount: Quantity) => Quantity,
    here: readonly Passage[]
  ): boolean {
    for (const passage of here)
      if (passage.type !== 'fitted' && !passage.shared)
        for (const { mark, quantity: amount } of passage.outs)
          made.set(mark, (made.get(mark) ?? ZERO).plus(exact(amount)));
    for (const [mark, { into, out }] of moved) {
      const rest = out.minus(used.get(mark) ?? ZERO);
      const back = into.minus(made.get(mark) ?? ZERO);
      // What goes from one place to another is there before and after.
      const stays = least(rest, back);
      const leaves = rest.minus(stays);
      if (leaves.gt(0)) this.leave(event, mark, leaves, share);
      if (this.strict && this.at(mark).quantity.lt(0)) return false;
      moved.get(mark)!.into = into.minus(stays);
    }
    return !this.strict || [...used.keys()].every((mark) => this.at(mark).quantity.gte(0));
  }

  private leave(
    event: CarriedEvent,
    mark: number,
    amount: Quantity,
    share: (mark: number, amount: Quantity) => Quantity
  ): void {
    const there = this.at(mark);
    const earlier = event.undone === null ? undefined : this.brought.get(`${event.undone} ${mark}`);
    const content = earlier ? partOf(earlier, amount) : share(mark, amount);
    there.quantity = there.quantity.minus(amount);
    there.content = there.content.minus(content);
    if (earlier) this.report(mark, content.negated());
    if (event.kind === 'ship') add(this.pool(mark, event.partner), amount, content);
    if (this.undone.has(event.id))
      this.took.set(`${event.id} ${mark}`, { quantity: amount, content });
  }

  private pour(
    passage: Passage,
    given: readonly Quantity[],
    taken: ReadonlyMap<number, Quantity>
  ): void {
    const outs = passage.outs.filter((row) => this.marks.has(row.mark));
    const carried = given.reduce((sum, one) => sum.plus(one), ZERO);
    const shares = passage.separates
      ? this.parts.apart(passage, given)
      : this.parts.spread(outs, carried);
    outs.forEach(({ mark, quantity: amount }, n) => {
      const content = shares[n]!;
      const there = this.at(mark);
      if (passage.type !== 'fitted' && !passage.shared)
        there.quantity = there.quantity.plus(exact(amount));
      if (this.isOwn(mark)) return;
      there.content = there.content.plus(content);
      const itself = passage.ins.some((row) => row.mark === mark);
      if (!this.parts.knownPart(passage, mark))
        this.report(mark, itself ? content.minus(taken.get(mark) ?? ZERO) : content);
      if (!passage.separates)
        this.parts.remember(passage, outs, given, mark, exact(amount), {
          content,
          of: carried
        });
    });
  }

  /** What comes into a mark beside the passages: received, gained, given back. */
  private bringRest(event: CarriedEvent, mark: number, amount: Quantity): void {
    if (amount.lte(0)) return;
    const there = this.at(mark);
    const content = this.contentBrought(event, mark, amount);
    there.quantity = there.quantity.plus(amount);
    there.content = there.content.plus(content);
    if (this.undone.has(event.id))
      this.brought.set(`${event.id} ${mark}`, { quantity: amount, content });
  }

  private contentBrought(event: CarriedEvent, mark: number, amount: Quantity): Quantity {
    if (event.kind === 'return') {
      const outside = this.pool(mark, event.partner);
      const back = outside.quantity.lte(0) ? ZERO : partOf(outside, amount);
      add(outside, least(amount, outside.quantity).negated(), back.negated());
      return back;
    }
    if (event.undone !== null) {
      const earlier = this.took.get(`${event.undone} ${mark}`);
      const back = earlier ? partOf(earlier, amount) : ZERO;
      if (earlier) this.unship(event.undone, mark, amount, back);
      return back;
    }
    if (this.from?.has(event.id) && this.own.has(mark)) {
      this.report(mark, amount);
      return amount;
    }
    return ZERO;
  }

  private unship(event: number, mark: number, amount: Quantity, content: Quantity): void {
    const shipped = this.eventOf.get(event);
    if (shipped?.kind === 'ship')
      add(this.pool(mark, shipped.partner), amount.negated(), content.negated());
  }

  /** Serials that come to be within a lot share what is in it. */
  private join(members: readonly Passage[]): void {
    for (const [lot, born] of groupBy(members, (one) => one.ins[0]!.mark)) {
      const there = this.at(lot);
      if (this.isOwn(lot) || there.content.lte(0)) continue;
      const each = there.content.div(there.quantity.plus(born.length));
      for (const { outs } of born) {
        this.at(outs[0]!.mark).content = this.at(outs[0]!.mark).content.plus(each);
        this.report(outs[0]!.mark, each);
        there.content = there.content.minus(each);
      }
    }
  }

  /** Of a mark that is the root itself, all that came in counts. */
  private reportOwn(
    event: CarriedEvent,
    moved: ReadonlyMap<number, { all: Quantity }>,
    here: readonly Passage[]
  ): void {
    if (this.from !== null) return;
    const kind = event.undone === null ? event.kind : this.eventOf.get(event.undone)?.kind;
    if (!bringsIn(kind ?? '')) return;
    for (const [mark, { all }] of moved) {
      if (!this.own.has(mark)) continue;
      const back = here.some(
        (one) => this.parts.knownPart(one, mark) && one.outs.some((o) => o.mark === mark)
      );
      if (back) continue;
      if (event.undone === null ? all.gt(0) : all.lt(0)) this.report(mark, all);
    }
  }

  private pool(mark: number, partner: string | null): Held {
    const key = `${mark} ${partner ?? ''}`;
    let there = this.pools.get(key);
    if (!there) this.pools.set(key, (there = nothing()));
    return there;
  }
}

function movedIn(
  rows: readonly { mark: number; quantity: string }[]
): Map<number, { into: Quantity; out: Quantity; all: Quantity }> {
  const moved = new Map<number, { into: Quantity; out: Quantity; all: Quantity }>();
  for (const { mark, quantity: text } of rows) {
    const amount = quantity(text),
      sum = moved.get(mark) ?? { into: ZERO, out: ZERO, all: ZERO };
    if (amount.gt(0)) sum.into = sum.into.plus(amount);
    else sum.out = sum.out.minus(amount);
    sum.all = sum.all.plus(amount);
    moved.set(mark, sum);
  }
  return moved;
}
