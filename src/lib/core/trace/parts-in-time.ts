import { formatQuantity, ZERO, type Quantity } from '../quantity/quantity.ts';
import type { ContentQuestion } from './content-question.ts';
import { add, exact, least, nothing, type Held } from './held-in-time.ts';
import type { Passage } from './passages.ts';
import { weightsOf } from './weights.ts';

/** What went into the units of a trace, part for part, and what each brings when it comes out. */
export class PartsInTime {
  private readonly parts = new Map<number, Map<number, Held>>();
  private readonly madeOf = new Map<number, Quantity>();
  private readonly marks: ReadonlySet<number>;

  constructor(
    private readonly question: ContentQuestion,
    private readonly isOwn: (mark: number) => boolean
  ) {
    this.marks = question.marks;
  }

  /** A part comes out of a unit with the content it has in it. */
  takeOut(host: number, part: number, amount: Quantity): Quantity {
    const inside = this.parts.get(host)?.get(part);
    if (!inside || inside.quantity.lte(0)) return ZERO;
    const content = inside.content.times(least(amount, inside.quantity)).div(inside.quantity);
    inside.quantity = inside.quantity.minus(amount);
    inside.content = inside.content.minus(content);
    return content;
  }

  /** What each part that comes out of a unit brings with it. */
  apart(passage: Passage, given: readonly Quantity[]): Quantity[] {
    const outs = passage.outs.filter((row) => this.marks.has(row.mark));
    if (passage.type === 'removed') return [given[0]!];
    const host = passage.ins[0]!,
      carried = given[0]!;
    const known = this.question.presences.get(host.mark)?.apart.get(passage.key);
    if (this.isOwn(host.mark) || !known) return this.spread(outs, carried);
    const inside = this.parts.get(host.mark) ?? new Map<number, Held>();
    const sum = [...inside.values()].reduce((all, one) => all.plus(one.content), ZERO);
    const units = this.madeOf.get(host.mark) ?? ZERO;
    const brings = outs.map(({ mark, quantity: amount }) => {
      const part = inside.get(mark);
      if (!part || sum.lte(0) || part.quantity.lte(0) || units.lte(0)) return ZERO;
      const there = part.quantity.times(exact(host.quantity)).div(units);
      const given = carried.times(part.content).div(sum);
      // What is left of a share that has no finite decimal is less than the ledger keeps.
      const all = there.minus(exact(amount)).lt('0.000001');
      return all ? given : given.times(exact(amount)).div(there);
    });
    const rest = brings.reduce((all, one) => all.minus(one), carried);
    const unknown = outs.filter((row) => !known.inside.has(row.mark));
    const shares = this.spread(unknown, rest);
    unknown.forEach((row, n) => (brings[outs.indexOf(row)] = shares[n]!));
    if (exact(host.quantity).eq(1)) this.parts.delete(host.mark);
    return brings;
  }

  spread(outs: Passage['outs'], amount: Quantity): Quantity[] {
    const shares = weightsOf(
      outs.map((row) => ({
        quantity: formatQuantity(exact(row.quantity)),
        share: row.share,
        unit: this.question.unitOf(row.mark)
      }))
    );
    let left = amount;
    return shares.map((share, n) => {
      const part = n === shares.length - 1 ? left : amount.times(share);
      left = left.minus(part);
      return part;
    });
  }

  knownPart(passage: Passage, mark: number): boolean {
    if (passage.type === 'removed') return true;
    if (!passage.separates) return false;
    const host = passage.ins[0]!.mark;
    if (this.isOwn(host)) return false;
    return this.question.presences.get(host)?.apart.get(passage.key)?.inside.has(mark) ?? false;
  }

  /** What went into a unit that is taken apart one day. */
  remember(
    passage: Passage,
    outs: Passage['outs'],
    given: readonly Quantity[],
    host: number,
    made: Quantity,
    share: { content: Quantity; of: Quantity }
  ): void {
    if (!this.question.presences.has(host)) return;
    const inside = this.parts.get(host) ?? new Map<number, Held>();
    this.parts.set(host, inside);
    const all = outs.reduce((sum, row) => sum.plus(exact(row.quantity)), ZERO);
    passage.ins.forEach(({ mark, quantity: amount }, n) => {
      if (mark === host) return;
      const part = inside.get(mark) ?? nothing();
      inside.set(mark, part);
      const content = share.of.isZero() ? ZERO : given[n]!.times(share.content).div(share.of);
      add(part, exact(amount).times(made).div(all), content);
    });
    if (passage.type === 'fitted' || passage.shared) return;
    const itself = passage.ins.some((row) => row.mark === host);
    if (!itself) this.madeOf.set(host, (this.madeOf.get(host) ?? ZERO).plus(made));
  }
}
