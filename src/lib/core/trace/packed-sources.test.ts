import fc from 'fast-check';
import { expect, it } from 'vitest';
import { OpenLedger } from './packed/open-ledger.ts';
import { KIND_OF_CODE } from './packed/packed-ledger.ts';
import { Walker } from './packed/packed-walk.ts';
import { anyBookedLedger, pack, type SmallLedger } from './testing/booked-ledger.ts';
import { packedSources } from './packed-sources.ts';

/**
 * What each mark came out of, by plain walks over the rows: another way than sets carried
 * downstream.
 */
function upstreamOf({ rows, marks }: SmallLedger): Map<number, Set<number>> {
  const gone = new Set(rows.takenBack.map((row) => row.transformation)),
    before = new Map<number, number[]>();
  const tie = (from: number, to: number) => before.set(to, [...(before.get(to) ?? []), from]);
  for (const one of rows.transformations)
    if (!gone.has(one.id))
      for (const input of one.inputs)
        for (const output of one.outputs) tie(input.mark, output.mark);
  for (const mark of rows.marks) if (mark.lot > 0) tie(mark.lot, mark.id);
  for (const { component, host } of rows.fittings) tie(component, host);
  return new Map(
    Array.from({ length: marks }, (_, n) => n + 1).map((mark) => {
      const found = new Set<number>(),
        waiting = [mark];
      for (let one = waiting.pop(); one !== undefined; one = waiting.pop()) {
        if (found.has(one)) continue;
        found.add(one);
        waiting.push(...(before.get(one) ?? []));
      }
      return [mark, found];
    })
  );
}

it('counts for every source what a walk from every unit would count: marks and suppliers (property)', () => {
  fc.assert(
    fc.property(
      anyBookedLedger,
      fc.uniqueArray(fc.nat(), { minLength: 2, maxLength: 5 }),
      fc.boolean(),
      (ledger, picks, listed) => {
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
            [...all.get(mark)!].flatMap((one) =>
              rows.movements
                .filter(
                  (row) =>
                    row.mark === one && KIND_OF_CODE[rows.events[row.event - 1]!.kind] === 'receive'
                )
                .map((row) => rows.events[row.event - 1]!.partner)
            )
          );
        const expected: string[] = [];
        for (let mark = 1; mark <= ledger.marks; mark++) {
          const ill = troubled.filter((unit) => unit !== mark && all.get(unit)!.has(mark)).length;
          if (ill >= 2)
            expected.push(
              `mark ${mark} ${ill} ${Math.max(ill, units.filter((unit) => all.get(unit)!.has(mark)).length)}`
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
