import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decideBuild } from '../making/build.ts';
import { decideRepack } from '../making/repack.ts';
import { decideFitting } from '../making/fit.ts';
import { decideTeardown } from '../making/teardown.ts';
import { decideQuality } from '../quality/decide-quality.ts';
import { quantity } from '../quantity/quantity.ts';
import { decideOpening } from '../receiving/opening.ts';
import { decideReceipt } from '../receiving/receive.ts';
import { decidePacking } from '../shipping/pack.ts';
import { decideReturn } from '../shipping/return.ts';
import { decideShipment } from '../shipping/ship.ts';
import { decideAmendment } from '../stock/amend.ts';
import { decideCorrection } from '../stock/correct.ts';
import { decideIdentification } from '../stock/give-numbers.ts';
import { decideMove } from '../stock/decide-move.ts';
import type { Decision, Rows } from './booking.ts';
import { decideWith } from './decide-with.ts';
import { decideReversal } from './reverse.ts';
import type { Snapshot } from './snapshot.ts';
import { hostileRequests } from './testing/hostile-requests.ts';
import { snapshot } from './testing/snapshot.ts';

const CARTON = '095200010000000010';
const known = snapshot({
  marks: [
    { id: 1, product: 'LOT', number: 'L1' },
    { id: 2, product: 'LOT', number: 'L2', state: 'held' },
    { id: 3, product: 'SER', number: 'S1' },
    { id: 4, product: 'SER', number: 'S2' },
    { id: 5, product: 'BULK', number: null }
  ],
  stock: [
    [1, 'A', '5'],
    [1, 'B', '0.5'],
    [2, 'A', '2'],
    [3, 'A', '1'],
    [5, 'B', '9']
  ],
  units: new Map([
    [
      CARTON,
      {
        id: 7,
        sscc: CARTON,
        kind: 'carton',
        order: null,
        shipped: null,
        pallet: null,
        cartons: [],
        contents: new Map([[1, quantity(2)]])
      }
    ]
  ]),
  packed: new Map([[1, [{ sscc: CARTON, quantity: quantity(2) }]]]),
  sales: new Map([
    [
      4,
      [
        {
          event: 8,
          document: 'SO-1',
          day: '2026-11-01',
          partner: 'Customer',
          partnerId: 2,
          quantity: quantity(1)
        }
      ]
    ]
  ])
});

const DECISIONS = {
  receipts: decideReceipt,
  openings: decideOpening,
  builds: decideBuild,
  repacks: decideRepack,
  teardowns: decideTeardown,
  fittings: decideFitting,
  reversals: decideReversal,
  shipments: decideShipment,
  packings: decidePacking,
  returns: decideReturn,
  corrections: decideCorrection,
  moves: decideMove,
  identifications: decideIdentification,
  amendments: decideAmendment,
  'quality-decisions': decideQuality
} as const;
const decide = (path: string, request: object): Decision =>
  decideWith(
    DECISIONS[path as keyof typeof DECISIONS] as (s: Snapshot, r: object) => Decision,
    known,
    request
  );

const requests = hostileRequests({
  things: [
    ...['L1', 'L2', 'N1'].map((lot) => ({ product: 'LOT', lot })),
    ...['S1', 'S2', 'N2'].map((serial) => ({ product: 'SER', serial })),
    { product: 'SIL', lot: 'L9', serial: 'S4' },
    { product: 'BULK' }
  ],
  products: ['LOT', 'SER', 'SIL', 'BULK'],
  places: ['A', 'B'],
  lots: ['L1', 'L2', 'N1'],
  serials: ['S1', 'S2', 'N2'],
  events: [999],
  units: [CARTON]
});

/**
 * What a clerk with a tally would find wrong with rows; knows nothing of the check and counts in
 * millionths.
 */
function wrongWith(rows: Rows): string[] {
  const micro = (value: { toFixed: (places: number) => string }) =>
    BigInt(value.toFixed(6).replace('.', ''));
  const all = [
    ...rows.identified.movements,
    ...rows.movements,
    ...(rows.scrapped?.movements ?? [])
  ];
  const stock = new Map<string, bigint>([
    ['1 1', 5_000_000n],
    ['1 2', 500_000n],
    ['2 1', 2_000_000n],
    ['3 1', 1_000_000n],
    ['5 2', 9_000_000n]
  ]);
  for (const { mark, placeId, quantity: amount } of all) {
    const key = `${mark} ${placeId}`;
    stock.set(key, (stock.get(key) ?? 0n) + micro(amount));
  }
  const below = [...stock].filter(([, amount]) => amount < 0n).map(([key]) => `below zero: ${key}`);
  const numbers = rows.newMarks.map((mark) => `${mark.productId} ${mark.kind} ${mark.number}`);
  const twice = numbers.length > new Set(numbers.map((one) => one.toUpperCase())).size;
  const changes = rows.changes.map((one) => `${one.mark} ${one.field} ${one.fact ?? ''}`);
  const ties = [...rows.identified.transformations, ...rows.transformations];
  // A serial that is reworked goes in and comes out.
  const loops = ties.filter((tie) =>
    tie.inputs.some(
      ({ mark }) => ![3, 4].includes(mark) && tie.outputs.some((output) => output.mark === mark)
    )
  );
  const fine = all.filter(({ quantity: amount }) => !amount.times(1_000_000).isInteger());
  return [
    ...below,
    ...(twice ? ['a number born twice'] : []),
    ...(changes.length > new Set(changes).size ? ['a field changed twice'] : []),
    ...(loops.length > 0 ? ['made of itself'] : []),
    ...(fine.length > 0 ? ['finer than a millionth'] : [])
  ];
}

describe('requests of every kind, sense and nonsense mixed', () => {
  it('are refused with faults that have a code and words, or end in rows nothing is wrong with (property)', () => {
    let good = 0;
    fc.assert(
      fc.property(requests, ({ path, request }) => {
        const decision = decide(path, request);
        if (!decision.ok) {
          expect(decision.faults.length).toBeGreaterThan(0);
          for (const fault of decision.faults) {
            expect(fault.code).toMatch(/^[a-z]+\.[a-z-]+$/);
            expect(fault.message.length).toBeGreaterThan(10);
          }
          return;
        }
        good++;
        expect(wrongWith(decision.rows)).toEqual([]);
      }),
      { numRuns: 4000, seed: 20_261_125 }
    );
    expect(good).toBeGreaterThan(200);
  });

  // What was let through or broke before there was one check.
  it.each([
    [
      'repacks',
      'a new serial twice',
      {
        place: 'A',
        groups: [
          {
            sources: [{ product: 'LOT', lot: 'L1', quantity: '2' }],
            results: [
              { product: 'SER', serial: 'N2', quantity: '1' },
              { product: 'SER', serial: 'N2', quantity: '1' }
            ]
          }
        ]
      }
    ],
    [
      'packings',
      '0.123456789 unpacked',
      {
        kind: 'unpack',
        unit: CARTON,
        units: [],
        lines: [{ product: 'LOT', lot: 'L1', quantity: '0.123456789' }]
      }
    ],
    [
      'amendments',
      'a mark amended twice',
      {
        lines: [
          { product: 'LOT', lot: 'L1', to: { supplierNumber: 'T-1' } },
          { product: 'LOT', lot: 'L1', to: { supplierNumber: 'T-2' } }
        ]
      }
    ],
    [
      'moves',
      'half a serial',
      {
        kind: 'move',
        lines: [{ product: 'SER', serial: 'S1', from: 'A', to: 'B', quantity: '0.5' }]
      }
    ],
    [
      'builds',
      'an output that is its own input',
      {
        place: 'A',
        groups: [
          {
            outputs: [{ product: 'LOT', lot: 'L1', quantity: '1' }],
            inputs: [{ product: 'LOT', lot: 'L1', quantity: '1' }]
          }
        ]
      }
    ],
    [
      'returns',
      'one serial returned on two lines',
      {
        place: 'A',
        customer: 'CUS',
        lines: [
          { product: 'SER', serial: 'S2' },
          { product: 'SER', serial: 'S2' }
        ]
      }
    ]
  ])('%s: %s is a fault with a path', (path, _what, request) => {
    const decision = decide(path, { document: 'D', reason: 'tried', ...request });
    expect(decision.ok).toBe(false);
    if (!decision.ok) for (const fault of decision.faults) expect(fault.path).not.toBe('');
  });
});
