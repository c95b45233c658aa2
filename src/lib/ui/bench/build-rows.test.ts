import { describe, expect, it } from 'vitest';
import type { Component } from '../../core/catalogue/positions.ts';
import { plainPlan } from '../../core/catalogue/plan.ts';
import { quantity } from '../../core/quantity/quantity.ts';
import {
  batchGroup,
  batchRows,
  lotsForNextUnit,
  outputColumns,
  shortFor,
  stillToName,
  unitGroups,
  type Making
} from './build-rows.ts';
import { positionsOf } from '../../core/catalogue/positions.ts';

const part = (
  product: string,
  marking: Component['marking'],
  amount: string,
  more: Partial<Component> = {}
): Component => ({
  product,
  name: product.toLowerCase(),
  unit: 'each',
  marking,
  quantity: amount,
  per: 'unit',
  scrapPercent: '0',
  follow: marking === 'none' ? 'drawn' : 'unit',
  positions: [],
  alternates: [],
  others: [],
  revision: null,
  ...more
});
const components = [
  part('BLD', 'lot', '1'),
  part('INF', 'serial', '2', { positions: ['left', 'right'] }),
  part('BKL', 'none', '2'),
  part('WEB', 'lot', '2.4', { follow: 'batch' })
];
const making: Making = {
  product: 'TN275',
  marking: 'serial',
  components,
  batch: null,
  coProducts: []
};
const lot = (number: string, amount: string, expires: string | null = null) => ({
  id: 1,
  number,
  quantity: amount,
  expires,
  since: '2026-01-01',
  state: 'usable' as const
});
const TODAY = '2026-11-23';

describe('unit by unit', () => {
  const positions = positionsOf(components);
  it('asks for every serial in its position and one lot per lot part; what is named for the batch or drawn is not asked', () => {
    expect(positions.map((position) => position.label)).toEqual([
      'BLD lot',
      'INF left',
      'INF right'
    ]);
  });
  it('proposes the first lot that still has enough after the units above', () => {
    const available = { BLD: [lot('B2', '5', '2027-06-01'), lot('B1', '1', '2027-01-01')] };
    expect(lotsForNextUnit(positions, [], available, TODAY)).toEqual({ BLD: 'B1' });
    expect(lotsForNextUnit(positions, [{ BLD: 'b1' }], available, TODAY)).toEqual({ BLD: 'B2' });
  });
  it('makes one group per unit; what is for all is shared, what is drawn needs no lot, and what is missing is said', () => {
    const { groups, rowOf, missing, shared, sharedRowOf } = unitGroups(
      making,
      [
        { serial: '' },
        { serial: 'TX-1', BLD: 'B1', 'INF 1': 'I1' },
        { serial: 'TX-2', BLD: 'B1', 'INF 1': 'I2', 'INF 2': 'I3' }
      ],
      [
        { product: 'WEB', number: 'W1', quantity: '3' },
        { product: 'WEB', number: 'W2', quantity: '1.8' }
      ]
    );
    expect(rowOf).toEqual([1, 2]);
    expect([...missing]).toEqual([[1, ['INF right']]]);
    expect(groups[0]).toEqual({
      outputs: [{ product: 'TN275', serial: 'TX-1', quantity: '1' }],
      inputs: [
        { product: 'BLD', lot: 'B1', quantity: '1' },
        { product: 'INF', serial: 'I1', quantity: '1', position: 'left' }
      ]
    });
    expect(shared).toEqual([
      { product: 'WEB', lot: 'W1', quantity: '3' },
      { product: 'WEB', lot: 'W2', quantity: '1.8' },
      { product: 'BKL', quantity: '4', draw: true }
    ]);
    expect(sharedRowOf).toEqual([0, 1, null]);
  });
  it('takes an alternate in the place of a part, under its own product', () => {
    const other = {
      ...making,
      components: [
        part('INF', 'serial', '1', {
          alternates: ['INF-B'],
          others: [{ product: 'INF-B', name: 'b', marking: 'serial' }]
        })
      ]
    };
    expect(unitGroups(other, [{ serial: 'T', 'INF 1': 'INF-B K7' }], []).groups[0]!.inputs).toEqual(
      [{ product: 'INF-B', serial: 'K7', quantity: '1' }]
    );
  });
  it('counts what the batch names towards the units: nothing is missing then', () => {
    expect(
      unitGroups(
        making,
        [{ serial: 'TX-1', BLD: 'B1' }],
        [
          { product: 'inf', number: 'I8', quantity: '1' },
          { product: 'INF', number: 'I9', quantity: '1' }
        ]
      ).missing.size
    ).toBe(0);
  });
});

describe('a batch', () => {
  const panel: Making = {
    product: 'PNL',
    marking: 'lot',
    components: [part('BLD', 'lot', '1')],
    batch: null,
    coProducts: [{ product: 'TRIM', quantity: '0.1', share: '5' }]
  };
  const shelf = { BLD: [lot('B1', '4', '2027-01-01'), lot('B2', '2')] };
  it('is filled over several lots, adding up exactly, and what is short is said before the work', () => {
    expect(
      batchRows(panel, '7', [], shelf, TODAY).map((row) => [row.number, row.quantity])
    ).toEqual([
      ['B1', '4'],
      ['B2', '2']
    ]);
    expect(shortFor(panel, '7', { BLD: '6' })).toEqual([
      { product: 'BLD', short: '1', unit: 'each' }
    ]);
  });
  it('is short of what scrap is allowed for, while only what goes in is drawn', () => {
    const wasteful = { ...panel, components: [part('BLD', 'lot', '1', { scrapPercent: '50' })] };
    expect(shortFor(wasteful, '6', { BLD: '6' })).toEqual([
      { product: 'BLD', short: '3', unit: 'each' }
    ]);
    expect(batchRows(wasteful, '6', [], shelf, TODAY)).toHaveLength(2);
  });
  it('fills only what the units did not name', () => {
    expect(
      stillToName(
        making,
        quantity(2),
        [{ serial: 'A', 'INF 1': 'x', 'INF 2': 'y', BLD: 'b' }, { serial: 'B' }],
        [{ product: 'WEB', quantity: '4' }]
      )
    ).toEqual(
      new Map([
        ['BLD', quantity(1)],
        ['INF', quantity(2)],
        ['BKL', quantity(4)],
        ['WEB', quantity('0.8')]
      ])
    );
  });
  it('is one group, with its co-product where some was made', () => {
    const { groups, shared } = batchGroup(
      panel,
      'P1',
      '7',
      [{ product: 'BLD', number: 'B1', quantity: '7' }, { product: '' }],
      {},
      [],
      { TRIM: { lot: 'T1', quantity: '0.6' } }
    );
    expect(groups).toEqual([
      {
        outputs: [
          { product: 'PNL', quantity: '7', lot: 'P1' },
          { product: 'TRIM', quantity: '0.6', lot: 'T1' }
        ],
        inputs: []
      }
    ]);
    expect(shared).toEqual([{ product: 'BLD', quantity: '7', lot: 'B1' }]);
  });
});

describe('what is asked of a made unit beside its number', () => {
  const asked = outputColumns({
    ...plainPlan('serial', { shelfLifeDays: 5 }),
    retest: 'entered',
    facts: [
      {
        name: 'leak test',
        kind: 'choice',
        unit: '',
        least: null,
        most: null,
        choices: ['tight', 'loose'],
        required: true
      },
      {
        name: 'pressure',
        kind: 'number',
        unit: 'mbar',
        least: '1',
        most: '9',
        choices: [],
        required: false
      }
    ]
  });
  const plain: Making = {
    product: 'P',
    marking: 'serial',
    components: [],
    batch: null,
    coProducts: []
  };
  it('are its facts and the dates that are entered; what fills itself is not asked', () =>
    expect(asked.map((column) => [column.key, column.kind, column.must])).toEqual([
      ['retest', 'date', true],
      ['fact:leak test', 'choice', true],
      ['fact:pressure', 'quantity', false]
    ]));
  it('goes with the unit it was given for', () => {
    const { groups } = unitGroups(
      plain,
      [{ serial: 'S1', 'fact:leak test': 'tight', retest: '2027-01-01' }, { serial: 'S2' }],
      [],
      asked
    );
    expect(groups.map((group) => group.outputs[0])).toEqual([
      {
        product: 'P',
        serial: 'S1',
        quantity: '1',
        retest: '2027-01-01',
        facts: { 'leak test': 'tight' }
      },
      { product: 'P', serial: 'S2', quantity: '1' }
    ]);
    expect(
      batchGroup(plain, 'L', '5', [], { 'fact:pressure': '4' }, asked).groups[0]!.outputs
    ).toEqual([{ product: 'P', quantity: '5', lot: 'L', facts: { pressure: '4' } }]);
  });
});
