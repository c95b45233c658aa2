import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { unitNumber, pack } from '../testing/booked-ledger.ts';
import { modelReach } from '../testing/model.ts';
import { modelContent } from '../testing/model-content.ts';
import { anyHistory } from '../testing/random-history.ts';
import { OpenLedger } from './open-ledger.ts';
import { packedFigures } from './packed-figures.ts';
import { levelsOf } from './levels.ts';
import { Walker } from './packed-walk.ts';

// The outside judge of both engine and SQL judge: a replay of events with exact fractions that
// knows neither (testing/model.ts), after the design's own words.
describe('the packed engine against a model of the rules', () => {
  it.each(['downstream', 'upstream'] as const)(
    '%s reaches what the rules say, no more and no less, whatever the dates (property)',
    (direction) => {
      fc.assert(
        fc.property(
          anyHistory,
          fc.nat(),
          fc.option(fc.nat(), { freq: 3 }),
          (ledger, pick, start) => {
            fc.pre(ledger.marks > 0);
            const root = 1 + (pick % ledger.marks);
            const from = start === null ? [] : [1 + (start % ledger.rows.events.length)];
            const model = modelReach({
              rows: ledger.rows,
              roots: [root],
              down: direction === 'downstream',
              ...(from.length > 0 ? { from: new Set(from) } : {})
            });
            const walker = new Walker(new OpenLedger(pack(ledger.rows)));
            const reached = walker.walk([root], direction, from.length > 0 ? { from } : {});
            const marks = [...reached.marks.data.subarray(0, reached.marks.length)];
            const levels = levelsOf(reached);
            expect(
              new Map(marks.map((mark, n) => [mark, levels[n]!] as const).sort(byMark))
            ).toEqual(new Map([...model.levels].sort(byMark)));
            for (const mark of marks)
              for (const { id } of ledger.rows.events)
                expect(reached.counts(mark, id)).toBe(model.counts(mark, id));
          }
        ),
        { numRuns: 1000 }
      );
    }
  );

  it('carries exactly the content that rational arithmetic carries (property)', () => {
    fc.assert(
      fc.property(anyHistory, fc.nat(), fc.option(fc.nat(), { freq: 3 }), (ledger, pick, start) => {
        fc.pre(ledger.marks > 0);
        const root = 1 + (pick % ledger.marks);
        const from = start === null ? [] : [1 + (start % ledger.rows.events.length)];
        const model = modelContent({
          rows: ledger.rows,
          roots: [root],
          down: true,
          ...(from.length > 0 ? { from: new Set(from) } : {})
        });
        const walker = new Walker(new OpenLedger(pack(ledger.rows)));
        const cut = from.length > 0 ? { from } : {};
        const reached = walker.walk([root], 'downstream', cut);
        const marks = [...reached.marks.data.subarray(0, reached.marks.length)];
        const none = new Uint32Array(0);
        const figures = packedFigures(walker, reached, none, 1, 'downstream', cut, unitNumber);
        expect(figures.contentBy).toBe(model.by);
        for (const [n, mark] of marks.entries())
          expect([mark, figures.contents[figures.content![n]!]!]).toEqual([
            mark,
            model.content.get(mark) ?? '0'
          ]);
      }),
      { numRuns: 1000 }
    );
  });
});

const byMark = ([a]: readonly [number, number], [b]: readonly [number, number]): number => a - b;
