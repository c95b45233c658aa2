import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { quantity } from '../../quantity/quantity.ts';
import { traceFindings } from '../trace.ts';
import { materialOf, pack, splitRows, unitNumber } from '../testing/booked-ledger.ts';
import { anyHistory, type SmallLedger } from '../testing/random-history.ts';
import { microOf, sayContent, sayMicro } from './amounts.ts';
import { noRows } from './booked-rows.ts';
import { linksOf, type Graph, type Link } from '../graph.ts';
import { OpenLedger } from './open-ledger.ts';
import { graphOf, packedGraph } from './packed-drawing.ts';
import { linesJson, linksJson } from './packed-json.ts';
import { packedLines } from './packed-lines.ts';
import type { PackedEnds } from './packed-ends.ts';
import { packedFigures } from './packed-figures.ts';
import { clearedMarks } from './cleared.ts';
import { levelsOf } from './levels.ts';
import { Walker } from './packed-walk.ts';
import type { PackedCut } from './reached.ts';
import { bytesOf } from './packed-ledger.ts';

type Direction = 'upstream' | 'downstream';

const anyCut = fc.record({
  clocks: fc.constantFrom('obey' as const, 'obey' as const, 'ignore' as const),
  from: fc.option(fc.nat(), { freq: 3 })
});

/** The packed answer in the judge's words, ends in a settled order. */
function packedAnswer(
  ledger: OpenLedger,
  roots: readonly number[],
  direction: Direction,
  cut: PackedCut = {}
) {
  const walker = new Walker(ledger);
  const reached = walker.walk(roots, direction, cut);
  const cleared = clearedMarks(() => new Walker(ledger), reached, roots, direction, cut);
  const levels = levelsOf(reached),
    ids = [...reached.marks.data.subarray(0, reached.marks.length)];
  const figures = packedFigures(walker, reached, cleared, roots.length, direction, cut, unitNumber);
  const said = (ends: PackedEnds, partner: boolean, place: boolean) =>
    Array.from(ends.mark, (mark, n) =>
      [
        mark,
        ...(ends.event[n]! > 0 ? [ends.event[n]!] : []),
        ...(partner ? [ledger.eventPartner(ends.event[n]!)] : []),
        ...(place ? [ends.place[n]!] : []),
        figures.amounts[ends.amount[n]!]!
      ].join(' ')
    ).sort();
  return {
    levels: Object.fromEntries(ids.map((id, n) => [id, levels[n]!])),
    content:
      figures.content &&
      Object.fromEntries(ids.map((id, n) => [id, figures.contents[figures.content![n]!]!])),
    cleared: [...cleared],
    clearedCustomers: said(figures.clearedCustomers, true, false),
    contentBy: figures.contentBy,
    customers: said(figures.ends.customers, true, false),
    scrapped: said(figures.ends.scrapped, false, true),
    suppliers: said(figures.ends.suppliers, true, false),
    onHand: said(figures.ends.onHand, false, true),
    balances: figures.balances
  };
}

function judged(
  ledger: SmallLedger,
  roots: readonly number[],
  direction: Direction,
  more: Parameters<typeof materialOf>[3] = {}
) {
  const found = traceFindings(materialOf(ledger, roots, direction, more));
  const customers = (ends: typeof found.ends.customers) =>
    ends
      .map((end) => [end.mark, eventOf(end.document), end.partner, end.quantity].join(' '))
      .sort();
  const eventOf = (document: string) => Number(document.slice(2));
  return {
    levels: Object.fromEntries(found.levels),
    content:
      found.content &&
      Object.fromEntries([...found.levels.keys()].map((id) => [id, found.content!.get(id) ?? '0'])),
    cleared: [...found.cleared.marks].sort((a, b) => a - b),
    clearedCustomers: customers(found.cleared.customers),
    contentBy: found.contentBy,
    customers: customers(found.ends.customers),
    scrapped: found.ends.scrapped
      .map((end) => [end.mark, eventOf(end.document), end.place, end.quantity].join(' '))
      .sort(),
    suppliers: found.ends.suppliers
      .map((end) => [end.mark, eventOf(end.document), end.partner, end.quantity].join(' '))
      .sort(),
    onHand: found.ends.onHand.map((end) => [end.mark, end.place, end.quantity].join(' ')).sort(),
    balances: found.balances
  };
}

describe('the packed ledger', () => {
  it.each(['downstream', 'upstream'] as const)(
    '%s answers what the judge answers: levels, content, cleared, ends and balances (property)',
    (direction) => {
      fc.assert(
        fc.property(anyHistory, fc.nat(), fc.nat(), anyCut, (ledger, a, b, cut) => {
          fc.pre(ledger.marks > 0);
          const roots = [...new Set([1 + (a % ledger.marks), 1 + (b % ledger.marks)])];
          const from = cut.from === null ? null : [1 + (cut.from % ledger.rows.events.length)];
          const packed = packedAnswer(new OpenLedger(pack(ledger.rows)), roots, direction, {
            clocks: cut.clocks,
            ...(from ? { from } : {})
          });
          const asked = { clocks: cut.clocks, ...(from ? { from: new Set(from) } : {}) };
          expect(packed).toEqual(judged(ledger, roots, direction, asked));
        }),
        { numRuns: 600 }
      );
    }
  );

  it('answers the same whether a booking was packed or added since, and one given twice counts once (property)', () => {
    fc.assert(
      fc.property(
        anyHistory,
        fc.nat(),
        fc.nat(),
        fc.constantFrom<Direction>('upstream', 'downstream'),
        (ledger, cut, pick, direction) => {
          fc.pre(ledger.marks > 0);
          const root = 1 + (pick % ledger.marks),
            whole = new OpenLedger(pack(ledger.rows));
          const [before, since] = splitRows(ledger.rows, 3 + (cut % ledger.rows.events.length));
          const open = new OpenLedger(pack(before));
          open.add(since);
          open.add(ledger.rows);
          expect(packedAnswer(open, [root], direction)).toEqual(
            packedAnswer(whole, [root], direction)
          );
          for (let mark = 1; mark <= ledger.marks; mark++)
            expect([...open.suppliers(open.originOf(mark))]).toEqual([
              ...whole.suppliers(whole.originOf(mark))
            ]);
        }
      ),
      { numRuns: 250 }
    );
  });

  it('hands the genealogy on as the judge reads it, and writes links and lines as JSON (property)', () => {
    fc.assert(
      fc.property(
        anyHistory,
        fc.nat(),
        fc.constantFrom<Direction>('upstream', 'downstream'),
        (ledger, pick, direction) => {
          fc.pre(ledger.marks > 0);
          const root = 1 + (pick % ledger.marks),
            material = materialOf(ledger, [root], direction);
          const walker = new Walker(new OpenLedger(pack(ledger.rows)));
          const reached = walker.walk([root], direction);
          const packed = packedGraph(walker.ledger, reached),
            graph = graphOf(packed);
          const settle = (one: Graph) => ({
            transformations: [...one.transformations]
              .map((tie) => ({
                ...tie,
                inputs: [...tie.inputs].sort((a, b) => a.mark - b.mark),
                outputs: [...tie.outputs]
                  .map((row) => ({ ...row, share: row.share && Number(row.share) }))
                  .sort((a, b) => a.mark - b.mark),
                separates: undefined,
                shared: undefined
              }))
              .sort((a, b) => a.id - b.id),
            members: [...one.members].sort((a, b) => a.serial - b.serial),
            fittings: [...one.fittings].sort((a, b) => a.event - b.event),
            removals: [...(one.removals ?? [])].sort((a, b) => a.event - b.event)
          });
          const judge = traceFindings(material);
          expect(settle(graph)).toEqual(settle(judge.graph));
          const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
          const key = (link: Link) =>
            `${link.type} ${link.from} ${link.to} ${link.transformation ?? ''} ${link.event}`;
          expect((JSON.parse(text(linksJson(packed))) as Link[]).map(key).sort()).toEqual(
            linksOf(judge.graph).map(key).sort()
          );
          const lines = packedLines(walker.ledger, reached, {}),
            { bytes, start } = linesJson(lines, (place) => `P"${place}`);
          const found = judge.events;
          expect([...lines.events]).toEqual(found.map((event) => event.id));
          const lineKey = (line: { mark: number; place: string | null; quantity: string }) =>
            `${line.mark} ${line.place} ${line.quantity}`;
          found.forEach((event, n) =>
            expect(
              (
                JSON.parse(text(bytes.subarray(start[n], start[n + 1]))) as {
                  mark: number;
                  place: string | null;
                  quantity: string;
                }[]
              )
                .map(lineKey)
                .sort()
            ).toEqual(
              event.lines
                .map((line) =>
                  lineKey({ ...line, place: line.place === null ? null : `P"${line.place}` })
                )
                .sort()
            )
          );
        }
      ),
      { numRuns: 300 }
    );
  });

  it('one walker answers question after question without remembering', () => {
    fc.assert(
      fc.property(anyHistory, (ledger) => {
        const walker = new Walker(new OpenLedger(pack(ledger.rows)));
        const reach = () => {
          const { marks } = walker.walk([1], 'downstream');
          return [...marks.data.subarray(0, marks.length)];
        };
        const first = reach();
        for (let mark = 1; mark <= ledger.marks; mark++)
          walker.walk([mark], mark % 2 ? 'upstream' : 'downstream');
        expect(reach()).toEqual(first);
        expect(walker.walk([999_999], 'downstream').marks.length).toBe(0);
      }),
      { numRuns: 100 }
    );
  });

  it('a thousand units of one bill share one shape, and cost few bytes', () => {
    const units = 1000,
      rows: SmallLedger['rows'] = {
        ...noRows(),
        events: [{ id: 1, kind: 5, undoes: 0, undone: 0, at: 1, partner: 0, person: 1 }]
      };
    for (let mark = 1; mark <= 2 * units + 1; mark++)
      rows.marks.push({ id: mark, product: 1, kind: 2, lot: 0, birth: 1 });
    for (let n = 1; n <= units; n++) {
      rows.transformations.push({
        id: n,
        event: 1,
        shared: false,
        inputs: [
          { mark: n, quantity: 1_000_000n },
          { mark: 2 * units + 1, quantity: 250_000n }
        ],
        outputs: [{ mark: units + n, quantity: 1_000_000n, share: null }]
      });
      rows.movements.push(
        { event: 1, mark: n, place: 1, quantity: -1_000_000n },
        { event: 1, mark: units + n, place: 1, quantity: 1_000_000n }
      );
    }
    const ledger = pack(rows);
    expect(ledger.shapes.length).toBe(1 + 3 + 2 + 1);
    expect(ledger.entries.length).toBe(2 * 3);
    // What a build of eight parts costs a link; two links each here carry the whole unit.
    expect(bytesOf(ledger) / (2 * units)).toBeLessThan(40);
  });
});

describe('amounts', () => {
  it('are read and said as the ledger writes them', () => {
    for (const text of ['0', '12', '-0.25', '999999999999.999999', '0.000001', '-100'])
      expect(sayMicro(microOf(text))).toBe(text);
    expect(microOf('12.500000')).toBe(12_500_000n);
  });
  it('content is rounded as decimal arithmetic rounds it (property)', () => {
    fc.assert(
      fc.property(fc.bigInt({ min: 0n, max: 10n ** 40n }), (scaled) => {
        const exact = quantity(
          `${scaled / 10n ** 30n}.${String(scaled % 10n ** 30n).padStart(30, '0')}`
        );
        expect(sayContent(scaled)).toBe(
          exact.toDecimalPlaces(20).toDecimalPlaces(12).toFixed().replace(/^-?0$/, '0')
        );
      })
    );
    expect(sayContent(10n ** 30n / 3n)).toBe('0.333333333333');
    expect(sayContent((2n * 10n ** 30n) / 3n)).toBe('0.666666666667');
  });
});
