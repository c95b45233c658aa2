import fc from 'fast-check';
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
