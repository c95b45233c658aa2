import fc from 'fast-check';
import { quantity, ZERO, type Quantity } from '../../../quantity/quantity.ts';
import type { CostEvent } from '../cost-event.ts';

/** What is drawn of an event: numbers that choose among what there is then. */
interface Drawn {
  what: 'receive' | 'gain' | 'build' | 'ship' | 'loss' | 'scrap';
  mark: number;
  others: number[];
  quantity: number;
  cost: number | null;
  part: number;
}

const drawn: fc.Arbitrary<Drawn> = fc.record({
  what: fc.constantFrom('receive', 'receive', 'gain', 'build', 'build', 'ship', 'loss', 'scrap'),
  mark: fc.integer({ min: 0, max: 5 }),
  others: fc.array(fc.integer({ min: 0, max: 5 }), { minLength: 1, maxLength: 3 }),
  quantity: fc.integer({ min: 1, max: 9_999 }),
  cost: fc.oneof({ weight: 9, arbitrary: fc.integer({ min: 0, max: 999_999 }) }, fc.constant(null)),
  part: fc.integer({ min: 1, max: 100 })
});

const NOTHING: Omit<CostEvent, 'id' | 'kind' | 'net'> = {
  costs: new Map(),
  ties: [],
  fittings: [],
  removals: [],
  told: new Map()
};

/**
 * Random histories of six marks: received and gained at costs known and unknown, built into each
 * other and into themselves, shipped, lost; never more than there is. Quantities have two decimals,
 * costs four.
 */
export const randomCosts: fc.Arbitrary<CostEvent[]> = fc
  .array(drawn, { minLength: 1, maxLength: 25 })
  .map((all) => {
    const lying = new Map<number, Quantity>();
    return all.flatMap((one, at) => eventOf(one, at + 1, lying) ?? []);
  });

function eventOf(one: Drawn, id: number, lying: Map<number, Quantity>): CostEvent | null {
  const move = (net: Map<number, Quantity>, more: Partial<CostEvent> = {}): CostEvent => {
    for (const [mark, moved] of net) lying.set(mark, (lying.get(mark) ?? ZERO).plus(moved));
    return { ...NOTHING, ...more, id, kind: one.what, net };
  };
  const amount = quantity(one.quantity).div(100);
  if (one.what === 'receive' || one.what === 'gain') {
    const costs = new Map(one.cost === null ? [] : [[one.mark, quantity(one.cost).div(10_000)]]);
    return move(new Map([[one.mark, amount]]), { costs });
  }
  const taken = [...new Set(one.what === 'build' ? one.others : [one.mark])].flatMap((mark) => {
    const there = (lying.get(mark) ?? ZERO).times(one.part).div(100).toDecimalPlaces(2);
    return there.gt(0) ? [{ mark, quantity: there }] : [];
  });
  if (taken.length === 0) return null;
  const net = new Map(taken.map((row) => [row.mark, row.quantity.negated()]));
  if (one.what !== 'build') return move(net);
  net.set(one.mark, (net.get(one.mark) ?? ZERO).plus(amount));
  const output = { mark: one.mark, quantity: amount, share: null, added: null, weight: amount };
  const tie = { inputs: taken, outputs: [output], shared: false, apart: false };
  return move(net, { ties: [tie] });
}
