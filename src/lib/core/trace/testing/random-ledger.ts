import fc from 'fast-check';
import { quantity, type Quantity } from '../../quantity/quantity.ts';
import type { Fitting, Graph, Member, Transformation } from '../graph.ts';

/**
 * A genealogy of a dozen or two marks, with loops, shared components, lots with serials within and
 * fittings.
 */
export const anyGraph: fc.Arbitrary<{ marks: number; graph: Graph }> = fc
  .integer({ min: 2, max: 24 })
  .chain((marks) => {
    const mark = fc.integer({ min: 1, max: marks });
    const side = fc.uniqueArray(mark, { minLength: 1, maxLength: 4 });
    const transformation = fc.record({ inputs: side, outputs: side });
    return fc
      .record({
        transformations: fc.array(transformation, { maxLength: 14 }),
        // Even marks may be lots, odd ones serials within them: a lot is never within a lot.
        members: fc.uniqueArray(
          fc.record({
            lot: mark.map((n) => Math.max(2, n - (n % 2))),
            serial: mark.map((n) => n - 1 + (n % 2))
          }),
          { maxLength: 6, selector: (row) => row.serial }
        ),
        fittings: fc.array(fc.record({ component: mark, host: mark }), { maxLength: 4 })
      })
      .map((drawn) => ({
        marks,
        graph: {
          transformations: drawn.transformations.map((row, index): Transformation => ({
            id: index + 1,
            event: index + 1,
            inputs: row.inputs.map((one) => ({ mark: one, quantity: '1' })),
            outputs: row.outputs.map((one) => ({ mark: one, quantity: '1', share: null }))
          })),
          members: drawn.members
            .filter((row) => row.lot <= marks && row.lot !== row.serial)
            .map((row): Member => ({ ...row, event: 1 })),
          fittings: drawn.fittings
            .filter((row) => row.component !== row.host)
            .map((row): Fitting => ({ ...row, quantity: '1', event: 1 }))
        }
      }));
  });

/**
 * A ledger that could have happened, without loops: marks are received or made, and never used
 * beyond what there is of them.
 */
export const anyAcyclicLedger: fc.Arbitrary<{
  graph: Graph;
  totals: Map<number, Quantity>;
  units: Map<number, string>;
  root: number;
}> = fc
  .record({
    received: fc.array(fc.integer({ min: 1, max: 1_000_000 }), { minLength: 1, maxLength: 5 }),
    builds: fc.array(
      fc.record({
        uses: fc.array(fc.record({ pick: fc.nat(), part: fc.integer({ min: 1, max: 100 }) }), {
          minLength: 1,
          maxLength: 4
        }),
        makes: fc.array(
          fc.record({
            amount: fc.integer({ min: 1, max: 5000 }),
            unit: fc.constantFrom('each', 'kg')
          }),
          { minLength: 1, maxLength: 4 }
        )
      }),
      { maxLength: 12 }
    )
  })
  .map(({ received, builds }) => {
    const totals = new Map<number, Quantity>(),
      left = new Map<number, Quantity>(),
      units = new Map<number, string>();
    const make = (amount: Quantity, unit: string) => {
      const id = totals.size + 1;
      totals.set(id, amount);
      left.set(id, amount);
      units.set(id, unit);
      return id;
    };
    for (const micro of received) make(quantity(micro).div(1000), 'kg');
    const transformations = builds.flatMap(({ uses, makes }, index): Transformation[] => {
      const inputs = new Map<number, Quantity>();
      for (const { pick, part } of uses) {
        const mark = (pick % totals.size) + 1;
        const amount = left.get(mark)!.times(part).div(100).toDecimalPlaces(6, 1);
        if (amount.lte(0)) continue;
        left.set(mark, left.get(mark)!.minus(amount));
        inputs.set(mark, (inputs.get(mark) ?? quantity(0)).plus(amount));
      }
      if (inputs.size === 0) return [];
      const outputs = makes.map(({ amount, unit }) => ({
        mark: make(quantity(amount).div(7).toDecimalPlaces(6), unit),
        amount
      }));
      return [
        {
          id: index + 1,
          event: index + 1,
          inputs: [...inputs].map(([mark, amount]) => ({ mark, quantity: amount.toFixed() })),
          outputs: outputs.map(({ mark }) => ({
            mark,
            quantity: totals.get(mark)!.toFixed(),
            share: null
          }))
        }
      ];
    });
    return { graph: { transformations, members: [], fittings: [] }, totals, units, root: 1 };
  });
