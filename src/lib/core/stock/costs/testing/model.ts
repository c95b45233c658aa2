import {
  fraction,
  isAbove,
  minus,
  over,
  plus,
  times,
  ZERO as NONE,
  type Fraction
} from '../../../trace/testing/fraction.ts';
import type { Quantity } from '../../../quantity/quantity.ts';
import type { CostEvent, CostTie } from '../cost-event.ts';

/** A decimal as a fraction. */
export const exactly = (value: Quantity): Fraction => {
  const digits = value.decimalPlaces();
  return fraction(BigInt(value.times(`1e${digits}`).toFixed(0)), 10n ** BigInt(digits));
};
const CENT = fraction(1n, 200n);
/** Within half a cent. */
export const isClose = (one: Fraction, other: Fraction): boolean => {
  const off = minus(one, other);
  return !isAbove(off, CENT) && !isAbove(minus(NONE, off), CENT);
};

/** What lies of a mark and what all of it cost, exactly; the whole model. */
export interface Purse {
  lying: Fraction;
  worth: Fraction | null;
  /** Of one, when something last lay here. */
  last: Fraction | null;
}

/** Money goes with goods: the rules in a few lines, in fractions, knowing nothing of the code. */
export class Model {
  purses = new Map<number, Purse>();
  cameIn = NONE;
  wentOut = NONE;
  /** Whether some cost was unknown, so that nothing adds up. */
  blind = false;

  of(mark: number): Purse {
    return this.purses.get(mark) ?? { lying: NONE, worth: NONE, last: null };
  }
  private put(mark: number, lying: Fraction, worth: Fraction | null): void {
    const before = this.of(mark).last;
    const last = lying.n <= 0n ? before : worth && over(worth, lying);
    this.purses.set(mark, { lying, worth: lying.n <= 0n ? NONE : worth, last });
  }
  add(mark: number, amount: Fraction, worth: Fraction | null): void {
    const { lying, worth: there } = this.of(mark);
    const sum = plus(lying, amount);
    // What had been taken before it came takes nothing along.
    if (lying.n < 0n) this.put(mark, sum, worth && times(over(worth, amount), sum));
    else this.put(mark, sum, there && worth && plus(there, worth));
  }
  take(mark: number, amount: Fraction): Fraction | null {
    const { lying, worth } = this.of(mark);
    if (isAbove(amount, lying)) {
      this.put(mark, minus(lying, amount), NONE);
      return null;
    }
    const share = worth && over(times(worth, amount), lying);
    this.put(mark, minus(lying, amount), worth && share && minus(worth, share));
    return share;
  }
  pass(event: CostEvent): void {
    const [tie] = event.ties;
    if (tie) return this.build(tie);
    for (const [mark, net] of event.net) {
      const moved = exactly(net);
      if (moved.n < 0n) {
        const gone = this.take(mark, minus(NONE, moved));
        this.blind ||= gone === null;
        this.wentOut = plus(this.wentOut, gone ?? NONE);
        continue;
      }
      const told = event.costs.get(mark);
      const own = event.kind === 'gain' ? this.of(mark).last : null;
      const one = told ? exactly(told) : own;
      this.blind ||= one === null;
      const worth = one && times(one, moved);
      this.cameIn = plus(this.cameIn, worth ?? NONE);
      this.add(mark, moved, worth);
    }
  }
  private build({ inputs, outputs }: CostTie): void {
    let worth: Fraction | null = NONE;
    for (const { mark, quantity: amount } of inputs) {
      const share = this.take(mark, exactly(amount));
      worth = worth && share && plus(worth, share);
    }
    this.add(outputs[0]!.mark, exactly(outputs[0]!.quantity), worth);
  }
}
