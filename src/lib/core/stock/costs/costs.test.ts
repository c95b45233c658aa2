import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { plus, times, ZERO as NONE } from '../../trace/testing/fraction.ts';
import { quantity, total, type Quantity } from '../../quantity/quantity.ts';
import type { CostEvent } from './cost-event.ts';
import { replay } from './replay.ts';
import { emptyBook, takeCosts } from './take-costs.ts';
import { exactly, isClose, Model } from './testing/model.ts';
import { randomCosts } from './testing/random-costs.ts';

const passAll = (events: readonly CostEvent[]) => {
  const book = emptyBook();
  const stood = new Map<number, { event: number; cost: Quantity | null }[]>();
  for (const event of events)
    for (const mark of takeCosts(book, event).changed.keys())
      stood.set(mark, [
        ...(stood.get(mark) ?? []),
        { event: event.id, cost: book.costs.get(mark) ?? null }
      ]);
  return { book, stood };
};

describe('costs over random histories', () => {
  it('are those of a model in fractions, and nothing is lost or made: in = out + what lies here', () => {
    let known = 0;
    fc.assert(
      fc.property(randomCosts, (events) => {
        const { book } = passAll(events);
        const model = new Model();
        for (const event of events) model.pass(event);
        let here = NONE;
        for (const [mark, { lying, worth }] of model.purses) {
          const cost = book.costs.get(mark) ?? null;
          expect(exactly(book.lying.get(mark)!)).toEqual(lying);
          if (lying.n === 0n) continue;
          expect(cost === null).toBe(worth === null);
          if (cost === null || worth === null) continue;
          const value = times(exactly(cost), lying);
          expect(isClose(value, worth)).toBe(true);
          here = plus(here, value);
        }
        if (model.blind) return;
        known++;
        expect(isClose(model.cameIn, plus(model.wentOut, here))).toBe(true);
      }),
      { numRuns: 1_000, seed: 20_261_129 }
    );
    expect(known).toBeGreaterThan(150);
  });

  it('told otherwise later are what they would have been, and what changes adds up', () => {
    let weighed = 0;
    fc.assert(
      fc.property(
        randomCosts,
        fc.nat(),
        fc.integer({ min: 0, max: 99_999 }),
        (events, at, cost) => {
          const receipts = events.filter(({ kind }) => kind === 'receive');
          if (receipts.length === 0) return;
          const { id: from, net, costs } = receipts[at % receipts.length]!;
          const [[mark, came]] = [...net] as [[number, Quantity]];
          const told = quantity(cost).div(100);
          const corrected = events.map((event) =>
            event.id === from ? { ...event, costs: new Map([[mark, told]]) } : event
          );
          const first = passAll(events.filter((event) => event.id < from));
          const since = passAll(events);
          const { rows, entries } = replay({
            marks: new Set([0, 1, 2, 3, 4, 5]),
            events: corrected.filter((event) => event.id >= from),
            lying: first.book.lying,
            costs: first.book.costs,
            stood: new Map(
              [...since.stood].map(([one, list]) => [one, list.filter((row) => row.event >= from)])
            ),
            outside: () => null
          });
          const wanted = passAll(corrected).book;
          for (const one of [0, 1, 2, 3, 4, 5]) {
            const stood = since.stood.get(one) ?? [];
            const stands = new Map(stood.map((row) => [row.event, row.cost]));
            for (const row of rows.filter(({ mark: of }) => of === one))
              stands.set(row.event, row.cost);
            const last = stands.get(Math.max(...stands.keys())) ?? null;
            expect(last?.toFixed() ?? null).toBe(wanted.costs.get(one)?.toFixed() ?? null);
          }
          const before = costs.get(mark);
          const model = new Model();
          for (const event of events) model.pass(event);
          if (!before || model.blind || entries.some((one) => one.here === null)) return;
          // Goods gained at their own cost carry the change once more: they came out of nothing.
          if (events.some(({ kind, costs: own }) => kind === 'gain' && own.size === 0)) return;
          weighed++;
          const changed = total(entries.map((one) => one.here!.plus(one.gone!)));
          const wants = told.minus(before).times(came);
          expect(isClose(exactly(changed), exactly(wants))).toBe(true);
        }
      ),
      { numRuns: 1_000, seed: 20_261_129 }
    );
    expect(weighed).toBeGreaterThan(100);
  });
});

describe('costs by example', () => {
  const event = (id: number, kind: string, more: Partial<CostEvent>): CostEvent => ({
    ...{ id, kind, net: new Map(), costs: new Map(), ties: [], fittings: [], removals: [] },
    told: new Map(),
    ...more
  });
  const q = quantity;
  const received = (id: number, mark: number, amount: number, cost: string | null) =>
    event(id, 'receive', {
      net: new Map([[mark, q(amount)]]),
      costs: new Map(cost === null ? [] : [[mark, q(cost)]])
    });
  const output = (mark: number, amount: number, more: object = {}) => ({
    ...{ mark, quantity: q(amount), share: null, added: null, weight: q(amount) },
    ...more
  });
  const costs = (events: CostEvent[]) =>
    Object.fromEntries(
      [...passAll(events).book.costs].map(([mark, cost]) => [mark, cost?.toFixed() ?? null])
    );

  // Specific identification: each unit is worth what it cost itself (accounting practice, IAS 2.23).
  it('each serial has its own; a lot topped up has the mean of what is left and what came', () => {
    expect(costs([received(1, 1, 1, '100'), received(2, 2, 1, '140')])).toEqual({
      1: '100',
      2: '140'
    });
    const sold = event(2, 'ship', { net: new Map([[1, q(-6)]]) });
    expect(costs([received(1, 1, 10, '2'), sold, received(3, 1, 4, '5')])).toEqual({ 1: '3.5' });
  });

  it('nobody knows what is mixed with the unknown, until all of that has left', () => {
    const first = [received(1, 1, 10, '2'), received(2, 1, 1, null)];
    expect(costs(first)).toEqual({ 1: null });
    const gone = event(3, 'loss', { net: new Map([[1, q(-11)]]) });
    expect(costs([...first, gone, received(4, 1, 3, '7')])).toEqual({ 1: '7' });
  });

  it('what became unknown meanwhile is unknown, and not what it cost before that', () => {
    const told = replay({
      marks: new Set([1]),
      // The receipt of unknown cost at event 5 stands, and is told only now.
      events: [received(5, 1, 10, '4')],
      lying: new Map([[1, q(10)]]),
      costs: new Map([[1, q(2)]]),
      stood: new Map([[1, [{ event: 5, cost: null }]]]),
      outside: () => null
    });
    expect(told.rows.map((row) => [row.event, row.cost?.toFixed()])).toEqual([[5, '3']]);
    const [entry] = told.entries;
    expect([entry!.before, entry!.after?.toFixed(), entry!.here]).toEqual([null, '3', null]);
  });

  // standards.md: 30 packs of 3 kg at 6 = 30 of 1 kg at 2 + 30 of 2 kg at 4 = 180.
  it('a repack carries the cost over by weight', () => {
    const tie = {
      inputs: [{ mark: 1, quantity: q(30) }],
      outputs: [output(2, 30, { weight: q(30) }), output(3, 30, { weight: q(60) })],
      ...{ shared: false, apart: false }
    };
    expect(costs([received(1, 1, 30, '6'), event(2, 'repack', { ties: [tie] })])).toEqual({
      ...{ 1: '6', 2: '2', 3: '4' }
    });
  });

  it('a build takes its parts, its share of what went into all, and what its bill adds', () => {
    const own = (unit: number, part: number) => ({
      inputs: [{ mark: part, quantity: q(1) }],
      outputs: [output(unit, 1, { added: q('12.5') })],
      ...{ shared: false, apart: false }
    });
    const shared = {
      inputs: [{ mark: 3, quantity: q(3) }],
      outputs: [output(11, 1), output(12, 1)],
      ...{ shared: true, apart: false }
    };
    const parts = [received(1, 1, 1, '20'), received(2, 2, 1, '30'), received(3, 3, 10, '4')];
    const built = event(4, 'build', { ties: [own(11, 1), own(12, 2), shared] });
    expect(costs([...parts, built])).toMatchObject({ 11: '38.5', 12: '48.5' });
  });

  it('a swap takes the old part’s cost out and puts the new one’s in; apart, parts are themselves', () => {
    const parts = [received(1, 1, 1, '20'), received(2, 2, 1, '26')];
    const tie = { inputs: [{ mark: 1, quantity: q(1) }], shared: false, apart: false };
    const built = event(3, 'build', {
      net: new Map([[1, q(-1)], [9, q(1)]]), // prettier-ignore
      ties: [{ ...tie, outputs: [output(9, 1, { added: q(10) })] }]
    });
    const one = (part: number) => [{ part, host: 9, quantity: q(1) }];
    const swap = event(4, 'swap', { removals: one(1), fittings: one(2) });
    const { book } = passAll([...parts, built, swap]);
    expect(book.costs.get(9)?.toFixed()).toBe('36');
    const { worked } = takeCosts(
      book,
      event(5, 'teardown', {
        net: new Map([[9, q(-1)], [2, q(1)]]), // prettier-ignore
        ties: [
          {
            inputs: [{ mark: 9, quantity: q(1) }],
            outputs: [output(2, 1)],
            shared: false,
            apart: true
          }
        ]
      })
    );
    // Of 36 the part is 26: the work of 10 is lost.
    expect([...worked].map(([unit, lost]) => [unit, lost.toFixed()])).toEqual([[9, '10']]);
    expect(book.costs.get(2)?.toFixed()).toBe('26');
  });
});
