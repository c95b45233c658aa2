import { describe, expect, it } from 'vitest';
import { placeScan, type ScanMaterial, type ScannedMark, type UnitInHand } from './place-scan.ts';
import type { Component } from '../catalogue/positions.ts';

const component = (
  product: string,
  marking: Component['marking'],
  more: Partial<Component> = {}
): Component => ({
  product,
  name: product,
  unit: 'each',
  marking,
  quantity: '1',
  per: 'unit',
  scrapPercent: '0',
  follow: 'unit',
  positions: [],
  alternates: [],
  others: [],
  revision: null,
  ...more
});
const components = [
  component('HEAD', 'serial', { revision: 'C' }),
  component('CYL', 'serial-in-lot', { alternates: ['CYL-X'] }),
  component('BOB', 'lot'),
  component('WEB', 'lot', { follow: 'batch' }),
  component('BKL', 'none', { follow: 'drawn' })
];
const mark = (product: string, number: string, more: Partial<ScannedMark> = {}): ScannedMark => ({
  product,
  kind: 'serial',
  number,
  state: 'usable',
  expires: null,
  onHand: true,
  gone: null,
  revision: null,
  lot: null,
  ...more
});
const scan = (
  number: string,
  more: Partial<ScanMaterial> = {},
  unit: UnitInHand = { serial: 'INF-1', filled: {} }
) =>
  placeScan(
    {
      order: 'WO-1',
      made: { product: 'INF', marking: 'serial' },
      components,
      number,
      marks: [],
      named: [],
      namedOnOrder: 0,
      day: '2026-11-23',
      ...more
    },
    unit
  );
const nobody: UnitInHand = { serial: null, filled: {} };

describe('a scan at the bench', () => {
  it('begins a unit: one named for the order, or a new number where none were named', () => {
    expect(
      scan('INF-2', { named: [{ order: 'wo-1', made: false }], namedOnOrder: 3 })
    ).toMatchObject({ is: 'unit', serial: 'INF-2' });
    expect(scan('INF-9', {}, nobody)).toMatchObject({ is: 'unit', serial: 'INF-9' });
  });
  it('puts a part in its position', () => {
    expect(scan('C-1', { marks: [mark('CYL', 'C-1')] })).toMatchObject({
      is: 'part',
      key: 'CYL 1',
      number: 'C-1',
      serial: true
    });
    expect(scan('B-1', { marks: [mark('BOB', 'B-1', { kind: 'lot' })] })).toMatchObject({
      is: 'part',
      key: 'BOB',
      serial: false
    });
    expect(scan('X-1', { marks: [mark('CYL-X', 'X-1')] })).toMatchObject({
      is: 'part',
      key: 'CYL 1',
      product: 'CYL-X',
      says: 'CYL: X-1, an alternate for CYL'
    });
    expect(scan('H-1', { marks: [mark('HEAD', 'H-1', { revision: 'c' })] })).toMatchObject({
      is: 'part'
    });
  });
  it('takes what is on hand where a number stands for two things', () => {
    expect(
      scan('7', {
        marks: [
          mark('CYL', '7', { onHand: false, gone: 'gone' }),
          mark('BOB', '7', { kind: 'lot' })
        ]
      })
    ).toMatchObject({ is: 'part', product: 'BOB' });
  });
  const refused: [string, ReturnType<typeof scan>, string][] = [
    [
      'a part before the unit',
      scan('C-1', { marks: [mark('CYL', 'C-1')] }, nobody),
      'Scan the unit first'
    ],
    [
      'the unit twice',
      scan('inf-1', { named: [{ order: 'WO-1', made: false }], namedOnOrder: 1 }),
      'is the unit in hand already'
    ],
    [
      'a part inside another unit, with where',
      scan('C-1', {
        marks: [
          mark('CYL', 'C-1', {
            onHand: false,
            gone: 'it is inside INF INF-7 since 3 Mar 2026, WO-9'
          })
        ]
      }),
      'it is inside INF INF-7 since 3 Mar 2026, WO-9'
    ],
    [
      'what is held',
      scan('C-1', { marks: [mark('CYL', 'C-1', { state: 'held' })] }),
      'held by quality'
    ],
    [
      'what is rejected',
      scan('C-1', { marks: [mark('CYL', 'C-1', { state: 'rejected' })] }),
      'rejected'
    ],
    [
      'what is expired',
      scan('C-1', { marks: [mark('CYL', 'C-1', { expires: '2026-11-22' })] }),
      'expired on 22 Nov 2026'
    ],
    [
      'another revision',
      scan('H-1', { marks: [mark('HEAD', 'H-1', { revision: 'B' })] }),
      'is revision B, and this unit takes revision C'
    ],
    ['no revision', scan('H-1', { marks: [mark('HEAD', 'H-1')] }), 'of no known revision'],
    [
      'a wrong product, with what it takes',
      scan('F-1', { marks: [mark('FAB', 'F-1', { kind: 'lot' })] }),
      'F-1 is a lot of FAB. One INF takes HEAD, CYL, BOB, WEB.'
    ],
    [
      'what the unit has already',
      scan('C-2', { marks: [mark('CYL', 'C-2')] }, { serial: 'INF-1', filled: { 'CYL 1': 'C-1' } }),
      'INF-1 has its CYL already: C-1'
    ],
    [
      'the same part twice',
      scan('C-1', { marks: [mark('CYL', 'C-1')] }, { serial: 'INF-1', filled: { 'CYL 1': 'C-1' } }),
      'is on this unit already'
    ],
    [
      'what is named for the batch',
      scan('W', { marks: [mark('WEB', 'W', { kind: 'lot' })] }),
      'named once for the whole batch'
    ],
    [
      'the lot where the serial is asked',
      scan('GC', { marks: [mark('CYL', 'GC', { kind: 'lot' })] }),
      'named by its serial here'
    ],
    [
      'a unit of another order',
      scan('INF-8', { named: [{ order: 'WO-2', made: false }] }),
      'is a unit of order WO-2, not of WO-1'
    ],
    [
      'a unit that is built, here',
      scan('INF-8', { marks: [mark('INF', 'INF-8')], named: [{ order: 'WO-1', made: true }] }),
      'is built already. For rework'
    ],
    [
      'a unit that is built and gone',
      scan('INF-8', { marks: [mark('INF', 'INF-8', { onHand: false, gone: 'it was shipped' })] }),
      'is built already: it was shipped'
    ],
    [
      'a number nobody named, where others were',
      scan('INF-99', { namedOnOrder: 4 }),
      'is neither a unit named for WO-1'
    ],
    [
      'an unknown number, where no units are numbered',
      scan('Q', { made: { product: 'PNL', marking: 'lot' } }),
      'There is nothing numbered Q'
    ]
  ];
  it.each(refused)('refuses %s', (_, placed, says) =>
    expect(placed).toMatchObject({ is: 'refused', says: expect.stringContaining(says) })
  );
});
