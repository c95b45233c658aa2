import fc from 'fast-check';
import { expect, it } from 'vitest';
import { OpenLedger } from './packed/open-ledger.ts';
import { KIND_OF_CODE } from './packed/packed-ledger.ts';
import { Walker } from './packed/packed-walk.ts';
import { pack } from './testing/booked-ledger.ts';
import { modelReach } from './testing/model.ts';
import { anyHistory, type SmallLedger } from './testing/random-history.ts';
import { packedSources } from './packed-sources.ts';

/** What each mark came out of and who supplied it, by the model of the rules, unit for unit. */
function upstreamOf({ rows, marks }: SmallLedger): Map<number, ReturnType<typeof modelReach>> {
  return new Map(
    Array.from({ length: marks }, (_, n) => n + 1).map((mark) => [
      mark,
      modelReach({ rows, roots: [mark], down: false, pull: false })
    ])
  );
}

it('counts for every source what a walk from every unit would count: marks and suppliers (property)', () => {
  fc.assert(
    fc.property(
      anyHistory,
      fc.uniqueArray(fc.nat(), { minLength: 2, maxLength: 5 }),
      fc.boolean(),
      (ledger, picks, listed) => {
        fc.pre(ledger.marks > 0);
        const troubled = [...new Set(picks.map((pick) => 1 + (pick % ledger.marks)))];
        const population = listed
          ? [1, 2, 3, 4, 5].filter((mark) => mark <= ledger.marks)
          : ('product' as const);
        const { rows } = ledger,
          all = upstreamOf(ledger);
        const wordOf = (mark: number) => {
          const row = rows.marks[mark - 1]!;
          return `${row.product} ${row.kind}`;
        };
        const units = [
          ...new Set([
            ...troubled,
            ...(listed
              ? (population as number[])
              : rows.marks
                  .map((row) => row.id)
                  .filter((mark) => troubled.some((one) => wordOf(one) === wordOf(mark))))
          ])
        ];
        const suppliersOf = (mark: number) =>
          new Set(
            rows.movements
              .filter(
                (row) =>
                  all.get(mark)!.levels.has(row.mark) &&
                  KIND_OF_CODE[rows.events[row.event - 1]!.kind] === 'receive' &&
                  !rows.events.some((event) => event.undone === row.event) &&
                  all.get(mark)!.counts(row.mark, row.event)
              )
              .map((row) => rows.events[row.event - 1]!.partner)
          );
        const expected: string[] = [];
        for (let mark = 1; mark <= ledger.marks; mark++) {
          const ill = troubled.filter(
            (unit) => unit !== mark && all.get(unit)!.levels.has(mark)
          ).length;
          if (ill >= 2)
            expected.push(
              `mark ${mark} ${ill} ${Math.max(ill, units.filter((unit) => all.get(unit)!.levels.has(mark)).length)}`
            );
        }
        for (let supplier = 1; supplier <= 3; supplier++) {
          const ill = troubled.filter((unit) => suppliersOf(unit).has(supplier)).length;
          if (ill >= 2)
            expected.push(
              `supplier ${supplier} ${ill} ${units.filter((unit) => suppliersOf(unit).has(supplier)).length}`
            );
        }
        const found = packedSources(
          new Walker(new OpenLedger(pack(rows))),
          troubled,
          population,
          1000
        );
        expect(found.population).toBe(units.length);
        expect(
          found.sources
            .filter((one) => one.kind === 'mark' || one.kind === 'supplier')
            .map((one) => `${one.kind} ${one.id} ${one.troubled} ${one.population}`)
            .sort()
        ).toEqual(expected.sort());
      }
    ),
    { numRuns: 200 }
  );
});
