import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { quantity } from '../quantity/quantity.ts';
import { asBuilt, type BuiltMark, type Making } from './as-built.ts';
import {
  billFaults,
  mainShare,
  netNeed,
  plannedNeed,
  type Bill,
  type BillPart
} from '../catalogue/bill.ts';
import { compareWithBill } from '../catalogue/compare.ts';
import { explode } from '../catalogue/explode.ts';
import { gapsOf } from './gaps.ts';
import { openPosition, positionsOf, type Component } from '../catalogue/positions.ts';

const part = (product: string, amount: string, more: Partial<BillPart> = {}): BillPart => ({
  product,
  quantity: amount,
  per: 'unit',
  scrapPercent: '0',
  follow: 'unit',
  positions: [],
  alternates: [],
  revision: null,
  ...more
});
const bill = (product: string, parts: BillPart[], more: Partial<Bill> = {}): Bill => ({
  product,
  version: 1,
  validFrom: '2026-01-01',
  batch: null,
  note: '',
  parts,
  coProducts: [],
  ...more
});
const say = (made: Parameters<typeof billFaults>[0]) =>
  billFaults(made).map((fault) => fault.message);

describe('a line of a bill', () => {
  it('is needed for every unit, or once for every batch begun', () => {
    expect(netNeed(part('P', '2.4'), null, quantity(5)).toFixed()).toBe('12');
    expect(netNeed(part('P', '0.5', { per: 'batch' }), '10', quantity(21)).toFixed()).toBe('1.5');
    expect(netNeed(part('P', '0.5', { per: 'batch' }), null, quantity(21)).toFixed()).toBe('0.5');
    expect(netNeed(part('P', '0.5', { per: 'batch' }), '10', quantity(0)).toFixed()).toBe('0');
  });
  it('is planned for with its scrap allowance on top (common practice)', () => {
    expect(plannedNeed(part('P', '2', { scrapPercent: '5' }), null, quantity(100)).toFixed()).toBe(
      '210'
    );
  });
  it('is refused where it cannot be meant', () => {
    expect(
      say(
        bill(
          'A',
          [
            part('P', '0'),
            part('Q', '1', { scrapPercent: '120' }),
            part('p', '1'),
            part('R', '2', { positions: ['left'] }),
            part('S', '2', { positions: ['left', 'Left'] }),
            part('T', '1', { follow: 'batch', positions: ['top'] }),
            part('U', '1', { alternates: ['U'] }),
            part('V', '1', { alternates: ['Q'] })
          ],
          { batch: 'x' }
        )
      )
    ).toEqual([
      expect.stringContaining('no batch size'),
      expect.stringContaining('no quantity of P'),
      expect.stringContaining('scrap allowance'),
      'p stands on line 1 already. Put the two quantities together, with a position for each.',
      expect.stringContaining('R has 1 position and 2 of it go in'),
      expect.stringContaining('Two positions of S'),
      expect.stringContaining('Positions of T'),
      expect.stringContaining('alternate of U'),
      expect.stringContaining('Q is an alternate of V and a line of its own')
    ]);
  });
  it('leaves the main product what its co-products do not take', () => {
    const good = bill('A', [part('P', '1')], {
      coProducts: [{ product: 'B', quantity: '0.1', share: '12.5' }]
    });
    expect(billFaults(good)).toEqual([]);
    expect(mainShare(good).toFixed()).toBe('87.5');
    expect(
      say({
        ...good,
        coProducts: [
          { product: 'B', quantity: '1', share: '60' },
          { product: 'C', quantity: '1', share: '50' }
        ]
      })
    ).toEqual([expect.stringContaining('leave nothing for A')]);
    expect(
      say({ ...good, coProducts: [{ product: 'a', quantity: '0', share: '0' }] })
    ).toHaveLength(3);
  });
});

describe('an explosion', () => {
  const jacket = new Map([
    ['J', bill('J', [part('B', '1'), part('I', '2'), part('W', '2.4')])],
    ['B', bill('B', [part('F', '1.8', { scrapPercent: '5' }), part('G', '0.12')])],
    ['I', bill('I', [part('C', '1'), part('G', '0.01')])]
  ]);
  it('goes through all levels, a parent before its parts', () => {
    const result = explode('J', quantity(10), (product) => jacket.get(product) ?? null);
    expect(
      result.ok &&
        result.lines.map((line) => `${line.level} ${line.part.product} ${line.net} ${line.planned}`)
    ).toEqual([
      '1 B 10 10',
      '2 F 18 18.9',
      '2 G 1.2 1.2',
      '1 I 20 20',
      '2 C 20 20',
      '2 G 0.2 0.2',
      '1 W 24 24'
    ]);
    expect(result.ok && result.totals.get('G')?.net.toFixed()).toBe('1.4');
  });
  it('refuses a loop, with its path', () => {
    const loop = new Map([
      ['A', bill('A', [part('B', '1')])],
      ['B', bill('B', [part('C', '1')])],
      ['C', bill('C', [part('B', '1')])]
    ]);
    expect(explode('A', quantity(1), (product) => loop.get(product) ?? null)).toEqual({
      ok: false,
      loop: ['B', 'C', 'B']
    });
  });
  // Check from outside the algorithm: an independent recursive sum over floating-point numbers on
  // random bills without loops.
  it('agrees with an independent recursive sum', () => {
    const bills = fc.array(
      fc.array(fc.tuple(fc.integer({ min: 1, max: 8 }), fc.integer({ min: 1, max: 4 })), {
        maxLength: 5
      }),
      { minLength: 2, maxLength: 7 }
    );
    fc.assert(
      fc.property(bills, fc.integer({ min: 1, max: 50 }), (levels, wanted) => {
        // Product n is made of products with a higher number only.
        const of = new Map(
          levels.map((lines, n) => [
            `P${n}`,
            bill(`P${n}`, [
              ...new Map(
                lines.map(([step, amount]) => [
                  `P${n + step}`,
                  part(`P${n + step}`, String(amount / 4))
                ])
              ).values()
            ])
          ])
        );
        const need = new Map<string, number>();
        const sum = (product: string, amount: number): void => {
          for (const line of of.get(product)?.parts ?? []) {
            need.set(line.product, (need.get(line.product) ?? 0) + amount * Number(line.quantity));
            sum(line.product, amount * Number(line.quantity));
          }
        };
        sum('P0', wanted);
        const result = explode('P0', quantity(wanted), (product) => of.get(product) ?? null);
        expect(result.ok).toBe(true);
        if (result.ok)
          expect(
            new Map([...result.totals].map(([product, total]) => [product, total.net.toNumber()]))
          ).toEqual(need);
      }),
      { numRuns: 200 }
    );
  });
});

describe('what a build leaves open', () => {
  const of = bill('J', [
    part('B', '1'),
    part('I', '2', { alternates: ['I2'] }),
    part('G', '1', { per: 'batch' })
  ]);
  const recorded = (used: Record<string, string>) => ({
    made: quantity(1),
    used: new Map(Object.entries(used).map(([code, amount]) => [code, quantity(amount)]))
  });
  it('is nothing where everything was named, alternates and batch parts included', () => {
    expect(
      gapsOf(
        of,
        [recorded({ B: '1', I: '1', I2: '1' }), recorded({ I: '2' })],
        new Map([
          ['B', quantity(1)],
          ['G', quantity(1)]
        ])
      )
    ).toEqual([]);
  });
  it('is said for each unit', () => {
    expect(
      gapsOf(of, [recorded({ B: '1', I: '1' }), recorded({ B: '1', I: '2' })], new Map()).map(
        (gap) => `${gap.group} ${gap.product} ${gap.used.toFixed()}/${gap.wanted.toFixed()}`
      )
    ).toEqual(['0 I 1/2', '0 G 0/0.5', '1 G 0/0.5']);
  });
});

describe('positions', () => {
  const component = (
    product: string,
    marking: Component['marking'],
    amount: string,
    more: Partial<Component> = {}
  ): Component => ({
    ...part(product, amount),
    name: product,
    unit: 'each',
    marking,
    others: [],
    ...more
  });
  const positions = positionsOf([
    component('I', 'serial', '2', { positions: ['left', 'right'], alternates: ['I2'] }),
    component('L', 'lot', '0.5'),
    component('D', 'lot', '1', { follow: 'drawn' }),
    component('N', 'none', '1')
  ]);
  it('are one for each serial and one for each lot; what is not named for a unit has none', () =>
    expect(positions.map((one) => one.label)).toEqual(['I left', 'I right', 'L lot']));
  it('are filled in order, by an alternate too', () => {
    expect(openPosition(positions, {}, 'i')?.label).toBe('I left');
    expect(openPosition(positions, { 'I 1': 'X' }, 'I2')?.label).toBe('I right');
    expect(openPosition(positions, { 'I 1': 'X', 'I 2': 'Y' }, 'I')).toBeNull();
  });
});

describe('the as-built record', () => {
  const mark = (id: number, product: string, kind: BuiltMark['kind'] = 'lot'): BuiltMark => ({
    id,
    product,
    name: product,
    unit: 'each',
    kind,
    number: `${product}-${id}`,
    lot: null,
    expires: null,
    state: 'usable',
    supplier: null,
    supplierNumber: null
  });
  const made = (
    id: number,
    event: number,
    inputs: [number, string, string?][],
    outputs: [number, string][],
    of: Bill | null = null,
    kind = 'build',
    shared = false
  ): Making => ({
    id,
    shared,
    event,
    document: `W${event}`,
    at: `2026-01-0${event}T00:00:00Z`,
    who: 'T',
    kind,
    bill: of,
    inputs: inputs.map(([one, amount, position]) => ({
      mark: one,
      quantity: amount,
      position: position ?? null
    })),
    outputs: outputs.map(([one, amount]) => ({ mark: one, quantity: amount }))
  });
  const marks = new Map(
    [
      mark(1, 'J', 'serial'),
      mark(2, 'J', 'serial'),
      mark(3, 'B'),
      mark(4, 'F'),
      mark(5, 'I', 'serial'),
      mark(6, 'I', 'serial'),
      mark(7, 'G')
    ].map((one) => [one.id, one])
  );
  const jacket = bill('J', [
    part('B', '1'),
    part('I', '2', { positions: ['left', 'right'] }),
    part('W', '1')
  ]);
  it('is indented through all levels, with the part of a lot that is in it, beside its bill', () => {
    const record = asBuilt(1, marks, [
      made(
        10,
        1,
        [
          [4, '18'],
          [7, '1']
        ],
        [[3, '10']],
        bill('B', [part('F', '1.8')])
      ),
      made(
        11,
        2,
        [
          [3, '1'],
          [5, '1', 'right'],
          [6, '1', 'left']
        ],
        [[1, '1']],
        jacket
      )
    ]);
    expect(
      record.lines.map((line) =>
        `${line.level} ${line.product} ${line.quantity} ${line.position ?? ''} ${line.verdict ?? ''}`.trim()
      )
    ).toEqual([
      '0 J 1',
      '1 W 0  missing',
      '1 B 1  as the bill says',
      '2 F 1.8  as the bill says',
      '2 G 0.1  extra',
      '1 I 1 left as the bill says',
      '1 I 1 right as the bill says'
    ]);
    expect(record.counts).toEqual({ missing: 1, extra: 1 });
  });
  it('counts a unit once that its own parts and its batch both made, and gives it its share of the batch', () => {
    const record = asBuilt(1, marks, [
      made(10, 2, [[5, '1']], [[1, '1']], jacket),
      made(11, 2, [[6, '1']], [[2, '1']], jacket),
      made(
        12,
        2,
        [[7, '3']],
        [
          [1, '1'],
          [2, '1']
        ],
        jacket,
        'build',
        true
      )
    ]);
    expect(record.lines.find((line) => line.product === 'G')).toMatchObject({
      quantity: '1.5',
      shared: true
    });
    expect(record.lines[0]!.quantity).toBe('1');
  });
  it('ends where a lot went into itself by rework, and passes the unit itself over', () => {
    const record = asBuilt(1, marks, [
      made(10, 1, [[4, '1']], [[1, '1']]),
      made(
        11,
        2,
        [
          [1, '1'],
          [5, '1']
        ],
        [[1, '1']]
      ),
      made(12, 3, [[3, '1']], [[4, '1']]),
      made(13, 4, [[4, '1']], [[3, '1']])
    ]);
    expect(record.lines.map((line) => line.product)).toEqual(['J', 'F', 'B', 'F', 'I']);
  });
  it('says when something other than the bill asks went in', () => {
    const compared = compareWithBill(
      bill('J', [
        part('A', '2', { alternates: ['A2'] }),
        part('C', '1'),
        part('D', '1'),
        part('E', '1')
      ]),
      quantity(1),
      new Map([
        ['a', quantity(1)],
        ['A2', quantity(1)],
        ['C', quantity('0.5')],
        ['D', quantity(3)],
        ['Z', quantity(1)]
      ])
    );
    expect(compared.map((line) => [line.product, line.verdict])).toEqual([
      ['A', 'alternate'],
      ['C', 'less'],
      ['D', 'more'],
      ['E', 'missing'],
      ['Z', 'extra']
    ]);
    expect(compareWithBill(null, quantity(1), new Map([['Z', quantity(1)]]))).toMatchObject([
      { verdict: 'extra' }
    ]);
  });
});
