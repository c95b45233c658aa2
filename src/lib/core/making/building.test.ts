import { describe, expect, it } from 'vitest';
import type { Bill, BillPart } from '../catalogue/bill.ts';
import { formatQuantity, quantity } from '../quantity/quantity.ts';
import type { Decision, Rows } from '../ledger/booking.ts';
import { decideBuild } from './build.ts';
import { decideRepack } from './repack.ts';
import type { BuildGroup, BuildLine, Repack, Teardown } from '../ledger/request.ts';
import { decideReversal } from '../ledger/reverse.ts';
import type { KnownEvent, KnownOrder } from '../ledger/snapshot.ts';
import { decideTeardown } from './teardown.ts';
import { snapshot } from '../ledger/testing/snapshot.ts';

const rowsOf = (decision: Decision): Rows => {
  if (!decision.ok) throw new Error(decision.faults.map((fault) => fault.message).join('\n'));
  return decision.rows;
};
const faultsOf = (decision: Decision): string[] =>
  decision.ok ? [] : decision.faults.map((fault) => `${fault.code} ${fault.path}`);
const says = (decision: Decision): string =>
  decision.ok ? '' : decision.faults.map((fault) => fault.message).join('\n');
const moves = (rows: Pick<Rows, 'movements'>) =>
  rows.movements.map((row) => [row.mark, row.placeId, formatQuantity(row.quantity)]);
const ties = (rows: Rows) =>
  rows.transformations.map((one) => [
    one.inputs.map((row) => `${row.mark}×${formatQuantity(row.quantity)}`).join(' '),
    one.outputs.map((row) => `${row.mark}×${formatQuantity(row.quantity)}`).join(' ')
  ]);
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
const orderWith = (bill: Partial<Bill>, more: Partial<KnownOrder> = {}): KnownOrder => ({
  id: 9,
  number: 'WO',
  closed: false,
  partner: null,
  lines: new Map([[2, { ordered: quantity(10), most: quantity(10), done: quantity(0) }]]),
  announced: new Set(),
  named: 0,
  bill: {
    bill: {
      product: 'SER',
      version: 3,
      validFrom: '2026-01-01',
      batch: null,
      note: '',
      parts: [],
      coProducts: [],
      ...bill
    },
    latest: 3,
    ids: new Map([
      ['LOT', 1],
      ['SER', 2],
      ['SIL', 3],
      ['BULK', 4],
      ['FRESH', 5]
    ])
  },
  ...more
});
const marks = [
  { id: 11, product: 'LOT', number: 'L1' },
  { id: 12, product: 'LOT', number: 'L2', expires: '2026-12-01' },
  { id: 13, product: 'LOT', number: 'HELD', state: 'held' as const, expires: '2026-11-30' },
  { id: 31, product: 'SIL', number: 'C1' },
  { id: 32, product: 'SIL', number: 'C2' },
  { id: 41, product: 'BULK', number: null }
];
const stock: [number, string, string][] = [
  [11, 'A', '5'],
  [12, 'B', '2'],
  [13, 'A', '9'],
  [31, 'A', '1'],
  [32, 'A', '1'],
  [41, 'A', '50']
];
const build = (
  groups: BuildGroup[],
  shared: BuildLine[] = [],
  order: KnownOrder | null = null,
  more: Parameters<typeof snapshot>[0] = {}
) =>
  decideBuild(snapshot({ marks, stock, order, ...more }), {
    document: 'WO',
    place: 'A',
    groups,
    shared
  });
const unit = (serial: string, inputs: BuildLine[] = []): BuildGroup => ({
  outputs: [{ product: 'SER', serial, quantity: '1' }],
  inputs
});

describe('what goes into several units together', () => {
  it('is a transformation of its own, with all of them as its outputs', () => {
    const rows = rowsOf(
      build(
        [
          unit('U1', [{ product: 'SIL', serial: 'C1' }]),
          unit('U2', [{ product: 'SIL', serial: 'C2' }])
        ],
        [{ product: 'LOT', lot: 'L1', quantity: '3' }]
      )
    );
    expect(ties(rows)).toEqual([
      ['31×1', '-1×1'],
      ['32×1', '-2×1'],
      ['11×3', '-1×1 -2×1']
    ]);
    expect(moves(rows).filter(([mark]) => mark === -1)).toEqual([[-1, 1, '1']]);
  });
  it('belongs to the batch itself where there is only one', () => {
    expect(
      ties(
        rowsOf(
          build(
            [
              {
                outputs: [{ product: 'FRESH', lot: 'N', quantity: '4' }],
                inputs: [{ product: 'LOT', lot: 'L2', quantity: '1' }]
              }
            ],
            [
              { product: 'LOT', lot: 'L1', quantity: '3' },
              { product: 'LOT', lot: 'L2', quantity: '1' }
            ]
          )
        )
      )
    ).toEqual([['12×2 11×3', '-1×4']]);
  });
  it('is drawn by itself first expired first, over several lots, never what is held', () => {
    const rows = rowsOf(
      build(
        [unit('U1')],
        [
          { product: 'LOT', quantity: '3.5', draw: true },
          { product: 'BULK', quantity: '4', draw: true }
        ]
      )
    );
    expect(ties(rows)).toEqual([['12×2 11×1.5 41×4', '-1×1']]);
    expect(faultsOf(build([unit('U1')], [{ product: 'LOT', quantity: '8', draw: true }]))).toEqual([
      'stock.short shared[0]'
    ]);
    expect(says(build([unit('U1')], [{ product: 'LOT', quantity: '8', draw: true }]))).toContain(
      '8 each are to be drawn and 7 are usable on hand'
    );
  });
});

describe('a build beside its bill', () => {
  const bill = {
    parts: [
      part('SIL', '1', { positions: [] }),
      part('LOT', '2'),
      part('BULK', '1', { follow: 'drawn' })
    ]
  };
  it('keeps what was not named, unit by unit; what the batch covers is no gap', () => {
    const rows = rowsOf(
      build(
        [
          unit('U1', [
            { product: 'SIL', serial: 'C1' },
            { product: 'LOT', lot: 'L1', quantity: '2' }
          ]),
          unit('U2', [{ product: 'LOT', lot: 'L1', quantity: '1' }])
        ],
        [{ product: 'BULK', quantity: '2', draw: true }],
        orderWith(bill)
      )
    );
    expect(
      rows.gaps.map((gap) => [
        gap.transformation,
        gap.mark,
        gap.componentId,
        formatQuantity(gap.wanted),
        formatQuantity(gap.used)
      ])
    ).toEqual([
      [1, -2, 3, '1', '0'],
      [1, -2, 1, '2', '1']
    ]);
    expect(
      rowsOf(
        build(
          [unit('U1', [{ product: 'SIL', serial: 'C1' }])],
          [
            { product: 'LOT', lot: 'L1', quantity: '2' },
            { product: 'BULK', quantity: '1', draw: true }
          ],
          orderWith(bill)
        )
      ).gaps
    ).toEqual([]);
  });
  it('finds no gap in rework, which takes its parts along', () => {
    const made = {
      marks: [...marks, { id: 21, product: 'SER', number: 'U1' }],
      stock: [...stock, [21, 'A', '1'] as [number, string, string]]
    };
    expect(
      rowsOf(
        build(
          [
            {
              outputs: [{ product: 'SER', serial: 'U1' }],
              inputs: [
                { product: 'SER', serial: 'U1' },
                { product: 'SIL', serial: 'C1' }
              ]
            }
          ],
          [],
          orderWith(bill),
          made
        )
      ).gaps
    ).toEqual([]);
  });
  it('refuses a part of another revision, or of none', () => {
    const of = (facts: Record<string, { value: string }>) =>
      build(
        [unit('U1', [{ product: 'SIL', serial: 'C1' }])],
        [],
        orderWith({ parts: [part('SIL', '1', { revision: 'C' })] }),
        { marks: marks.map((mark) => (mark.id === 31 ? { ...mark, facts } : mark)) }
      );
    expect(of({ Revision: { value: 'c' } }).ok).toBe(true);
    expect(says(of({ revision: { value: 'B' } }))).toContain(
      'is revision B, and bill version 3 asks for revision C'
    );
    expect(faultsOf(of({}))).toEqual(['mark.off-spec groups[0].inputs[0]']);
  });
  it('draws by itself only what is of the revision the bill asks for', () => {
    const lots = [
      { id: 11, product: 'LOT', number: 'L1', facts: { revision: { value: 'B' } } },
      { id: 12, product: 'LOT', number: 'L2', facts: { revision: { value: 'C' } } }
    ];
    const drawn = (quantity: string) =>
      build(
        [unit('U1')],
        [{ product: 'LOT', quantity, draw: true }],
        orderWith({ parts: [part('LOT', '1', { revision: 'C' })] }),
        { marks: lots }
      );
    expect(ties(rowsOf(drawn('2')))).toEqual([['12×2', '-1×1']]);
    expect(faultsOf(drawn('3'))).toEqual(['stock.short shared[0]']);
    expect(says(drawn('3'))).toContain('2 are usable on hand in revision C');
  });
  it('keeps where a part sits', () => {
    expect(
      rowsOf(build([unit('U1', [{ product: 'SIL', serial: 'C1', position: 'left' }])]))
        .transformations[0]!.inputs[0]
    ).toMatchObject({ position: 'left' });
  });
  it('gives a co-product its share, and lets it be made beside the order', () => {
    const order = orderWith(
      { product: 'LOT', coProducts: [{ product: 'FRESH', quantity: '0.1', share: '20' }] },
      { lines: new Map([[1, { ordered: quantity(10), most: quantity(10), done: quantity(0) }]]) }
    );
    const rows = rowsOf(
      build(
        [
          {
            outputs: [
              { product: 'LOT', lot: 'N', quantity: '8' },
              { product: 'FRESH', lot: 'T', quantity: '1' }
            ],
            inputs: [{ product: 'BULK', quantity: '9' }]
          }
        ],
        [],
        order
      )
    );
    expect(rows.transformations[0]!.outputs.map((output) => output.share?.toFixed())).toEqual([
      '0.8',
      '0.2'
    ]);
  });
  it('refuses a number that is named for another order, and notes one nobody named', () => {
    const named = new Map([['2 serial U9', 'WO-2']]);
    expect(says(build([unit('U9')], [], orderWith({}), { named }))).toContain(
      'U9 is named for order WO-2, not for WO'
    );
    const decision = build([unit('U8')], [], orderWith({}, { named: 2 }), { named });
    expect(decision.ok && decision.notes[0]!.message).toContain(
      'is not among the 2 numbers named for WO'
    );
  });
  it('says where a part is that another unit has', () => {
    const gone = new Map([
      [31, { kind: 'build', document: 'WO-7', day: '2026-03-03', partner: null, into: 'SER U3' }]
    ]);
    expect(
      says(build([unit('U1', [{ product: 'SIL', serial: 'C1' }])], [], null, { stock: [], gone }))
    ).toContain('it is inside SER U3 since 3 Mar 2026, WO-7');
  });
  it('makes a number again whose making was taken back', () => {
    expect(
      ties(
        rowsOf(
          build([unit('U1')], [], null, {
            marks: [{ id: 21, product: 'SER', number: 'U1', unmade: true }]
          })
        )
      )
    ).toEqual([['', '21×1']]);
  });
});

describe('taking a build back', () => {
  const q = quantity;
  const event = (more: Partial<KnownEvent> = {}): KnownEvent => ({
    id: 5,
    kind: 'build',
    document: 'WO',
    orderId: 9,
    partnerId: null,
    movements: [
      { mark: 31, place: 'A', quantity: q(-1) },
      { mark: 32, place: 'B', quantity: q(-1) },
      { mark: 11, place: 'A', quantity: q(-3) },
      { mark: 11, place: 'B', quantity: q(-1) },
      { mark: 21, place: 'A', quantity: q(1) },
      { mark: 22, place: 'A', quantity: q(1) }
    ],
    ...{ fittings: [], removals: [], fittedSince: new Map(), costs: new Map() },
    ...{ changes: [], packings: [], shipped: [], takenBack: new Set(), later: new Map() },
    undone: false,
    transformations: [
      {
        id: 1,
        reversed: false,
        shared: false,
        inputs: [{ mark: 31, quantity: q(1) }],
        outputs: [{ mark: 21, quantity: q(1) }]
      },
      {
        id: 2,
        reversed: false,
        shared: false,
        inputs: [{ mark: 32, quantity: q(1) }],
        outputs: [{ mark: 22, quantity: q(1) }]
      },
      {
        id: 3,
        reversed: false,
        shared: true,
        inputs: [{ mark: 11, quantity: q(4) }],
        outputs: [
          { mark: 21, quantity: q(1) },
          { mark: 22, quantity: q(1) }
        ]
      }
    ],
    ...more
  });
  const units = [
    { id: 21, product: 'SER', number: 'U1' },
    { id: 22, product: 'SER', number: 'U2' }
  ];
  const world = (more: Parameters<typeof snapshot>[0] = {}) =>
    snapshot({
      marks: [...marks, ...units],
      stock: [
        [21, 'B', '1'],
        [22, 'A', '1']
      ],
      event: event(),
      ...more
    });
  const back = (more: Parameters<typeof snapshot>[0] = {}, which?: string[]) =>
    decideReversal(world(more), {
      document: 'WO',
      event: 5,
      ...(which ? { units: which.map((serial) => ({ product: 'SER', serial })) } : {})
    });
  it('takes what was made from where it lies now, and lays parts where they came from', () => {
    const rows = rowsOf(back());
    expect(moves(rows)).toEqual([
      [21, 2, '-1'],
      [22, 1, '-1'],
      [31, 1, '1'],
      [32, 2, '1'],
      [11, 1, '3'],
      [11, 2, '1']
    ]);
    expect(rows.reverses).toEqual({ event: 5, transformations: [1, 2, 3] });
    expect([rows.orderId, rows.transformations]).toEqual([9, []]);
  });
  it('takes one unit back with its share of the batch; the rest stands anew', () => {
    const rows = rowsOf(back({}, ['u1']));
    expect(moves(rows)).toEqual([
      [21, 2, '-1'],
      [31, 1, '1'],
      [11, 1, '2']
    ]);
    expect(rows.reverses?.transformations).toEqual([1, 3]);
    expect(ties(rows)).toEqual([['11×2', '22×1']]);
  });
  it('is refused where the share cannot be told in whole parts', () => {
    const bulk = event({
      movements: [
        { mark: 41, place: 'A', quantity: q(-3) },
        { mark: 21, place: 'A', quantity: q(1) },
        { mark: 22, place: 'A', quantity: q(1) }
      ],
      transformations: [
        {
          id: 3,
          reversed: false,
          shared: false,
          inputs: [{ mark: 41, quantity: q(3) }],
          outputs: [
            { mark: 21, quantity: q(1) },
            { mark: 22, quantity: q(1) }
          ]
        }
      ]
    });
    expect(says(back({ event: bulk }, ['U1']))).toContain('nobody can say which units it is in');
  });
  it('is refused where something made has moved on, with where', () => {
    const gone = new Map([
      [22, { kind: 'ship', document: 'SO-3', day: '2026-11-02', partner: 'Skarrow', into: null }]
    ]);
    expect(says(back({ stock: [[21, 'A', '1']], gone }))).toBe(
      'Serial U2 of SER is no longer here: it was shipped to Skarrow on 2 Nov 2026, SO-3. Take that back first.'
    );
    expect(rowsOf(back({ stock: [[21, 'A', '1']], gone }, ['U1'])).answer).toEqual([21, 31, 11]);
  });
  it('is refused for another kind, a second time, and for units it did not make', () => {
    expect(says(back({ event: event({ kind: 'reversal' }) }))).toBe(
      'Event 5 is itself what took another back. Book what happened anew.'
    );
    expect(says(back({ event: null }))).toBe('There is no event 5.');
    expect(
      says(
        back({
          event: event({
            transformations: event().transformations.map((one) => ({ ...one, reversed: true }))
          })
        })
      )
    ).toContain('taken back already');
    expect(faultsOf(back({}, ['C1']))).toEqual(['mark.unknown units[0]']);
  });
});

describe('a repack', () => {
  // Source: shared design, standards.md, repack (practice): 30 packs of 3 kg = 30 of 1 kg + 30 of 2
  // kg = 90 kg; cost 30 × 6 = 30 × 2 + 30 × 4 = 180.
  const weights = { LOT: '3', FRESH: '1', BULK: '2' };
  const lots = [
    {
      id: 11,
      product: 'LOT',
      number: 'L1',
      expires: '2027-05-01',
      made: '2026-05-01',
      supplierNumber: 'THEIRS'
    },
    { id: 12, product: 'LOT', number: 'L2', expires: '2026-11-22' },
    { id: 41, product: 'BULK', number: null }
  ];
  const repack = (
    groups: Repack['groups'],
    more: Parameters<typeof snapshot>[0] = {},
    reason?: string
  ) =>
    decideRepack(
      snapshot({
        marks: lots,
        stock: [
          [11, 'A', '40'],
          [12, 'A', '5'],
          [41, 'A', '1']
        ],
        weights,
        ...more
      }),
      { document: 'RP', place: 'B', groups, ...(reason ? { reason } : {}) }
    );
  const thirty: Repack['groups'] = [
    {
      sources: [{ product: 'LOT', lot: 'L1', quantity: '30' }],
      results: [
        { product: 'FRESH', quantity: '30', unitCost: '2' },
        { product: 'BULK', quantity: '30', unitCost: '4' }
      ]
    }
  ];
  it('conserves weight and cost, and carries lot, dates and the supplier’s number over', () => {
    const rows = rowsOf(repack(thirty, { costs: new Map([[11, quantity(6)]]) }));
    expect(rows.newMarks).toMatchObject([
      {
        kind: 'lot',
        number: 'L1',
        expiresOn: '2027-05-01',
        madeOn: '2026-05-01',
        supplierNumber: 'THEIRS'
      }
    ]);
    expect(
      rows.movements.map((row) => [row.mark, formatQuantity(row.quantity), row.unitCost?.toFixed()])
    ).toEqual([
      [11, '-30', '6'],
      [-1, '30', '2'],
      [41, '30', '4']
    ]);
  });
  it('shares a cost nobody gave by weight, to the cent', () => {
    const rows = rowsOf(
      repack(
        [
          {
            sources: thirty[0]!.sources,
            results: [
              { product: 'FRESH', quantity: '30' },
              { product: 'BULK', quantity: '30' }
            ]
          }
        ],
        { costs: new Map([[11, quantity(6)]]) }
      )
    );
    expect(rows.movements.slice(1).map((row) => row.unitCost?.toFixed())).toEqual(['2', '4']);
  });
  it('is refused where a gram, a cent or a weight is missing', () => {
    expect(
      says(
        repack([
          {
            sources: [{ product: 'LOT', lot: 'L1', quantity: '1' }],
            results: [{ product: 'FRESH', quantity: '2.99' }]
          }
        ])
      )
    ).toContain('0.01 kg are missing');
    expect(
      says(
        repack([
          {
            sources: [{ product: 'LOT', lot: 'L1', quantity: '1' }],
            results: [{ product: 'FRESH', quantity: '4' }]
          }
        ])
      )
    ).toContain('1 kg are too many');
    expect(says(repack(thirty, { costs: new Map([[11, quantity('6.01')]]) }))).toContain(
      'goes in as 180.30 and comes out as 180.00'
    );
    expect(says(repack(thirty, { weights: { ...weights, FRESH: null } }))).toContain(
      'FRESH fresh has no net weight'
    );
  });
  it('keeps each lot apart unless the mixture has a number of its own', () => {
    const mixed = (lot?: string): Repack['groups'] => [
      {
        sources: [
          { product: 'LOT', lot: 'L1', quantity: '1' },
          { product: 'LOT', lot: 'L2', quantity: '1' }
        ],
        results: [{ product: 'FRESH', quantity: '6', ...(lot ? { lot } : {}) }]
      }
    ];
    expect(says(repack(mixed(), {}, 'sorted'))).toContain('Lots L1 and L2 would be mixed');
    expect(rowsOf(repack(mixed('MIX'), {}, 'sorted')).newMarks).toMatchObject([
      { number: 'MIX', expiresOn: '2026-11-22' }
    ]);
  });
  it('takes expired goods only with a reason, which is kept', () => {
    const old: Repack['groups'] = [
      {
        sources: [{ product: 'LOT', lot: 'L2', quantity: '1' }],
        results: [{ product: 'FRESH', quantity: '3' }]
      }
    ];
    const decision = repack(old);
    expect(!decision.ok && decision.faults[0]).toMatchObject({
      code: 'mark.expired',
      answer: 'reason'
    });
    expect(rowsOf(repack(old, {}, 'for disposal')).remarks).toMatchObject([
      { code: 'mark.expired', reason: 'for disposal' }
    ]);
  });
});

describe('a teardown', () => {
  const known = {
    marks: [...marks, { id: 21, product: 'SER', number: 'U1' }],
    stock: [
      [21, 'B', '1'],
      [11, 'A', '5']
    ] as [number, string, string][],
    asBuilt: new Map([
      [
        21,
        [
          { mark: 31, wentIn: quantity(1), left: quantity(1), made: quantity(1) },
          { mark: 11, wentIn: quantity(2), left: quantity(2), made: quantity(1) }
        ]
      ]
    ])
  };
  const tear = (
    parts: Teardown['units'][number]['parts'],
    more: Parameters<typeof snapshot>[0] = {},
    reason?: string
  ) =>
    decideTeardown(snapshot({ ...known, ...more }), {
      document: 'TD',
      place: 'A',
      ...(reason ? { reason } : {}),
      units: [{ product: 'SER', serial: 'U1', parts }]
    });
  it('brings the very components back, and scraps what is lost in the same booking', () => {
    const rows = rowsOf(
      tear(
        [
          { product: 'SIL', serial: 'C1', lot: 'X' },
          { product: 'LOT', lot: 'L1', quantity: '2', lost: true }
        ],
        {},
        'cut open'
      )
    );
    expect(moves(rows)).toEqual([
      [21, 2, '-1'],
      [31, 1, '1'],
      [11, 1, '2']
    ]);
    expect(rows.scrapped && [moves(rows.scrapped), rows.scrapped.reason]).toEqual([
      [[11, 1, '-2']],
      'cut open'
    ]);
    expect(ties(rows)).toEqual([['21×1', '31×1 11×2']]);
  });
  it('refuses a part that is not in the unit, more than went in, and one that lies on the shelf', () => {
    expect(
      says(
        tear([{ product: 'SIL', serial: 'C2', lot: 'X' }], {
          gone: new Map([
            [32, { kind: 'build', document: 'W', day: '2026-03-03', partner: null, into: 'SER U7' }]
          ])
        })
      )
    ).toContain('did not go into this unit: it is inside SER U7');
    expect(says(tear([{ product: 'SIL', serial: 'C9', lot: 'X' }]))).toContain(
      'it was built with C1 of SIL'
    );
    expect(says(tear([{ product: 'LOT', lot: 'L1', quantity: '3' }]))).toContain(
      '2 each of Lot L1 went in, so 3 cannot come out'
    );
    expect(
      says(
        tear([{ product: 'SIL', serial: 'C1', lot: 'X' }], {
          stock: [...known.stock, [31, 'A', '1']]
        })
      )
    ).toContain('already on hand');
  });
  it('makes new marks only where nobody wrote down what went in', () => {
    expect(
      rowsOf(tear([{ product: 'FRESH', lot: 'OUT', quantity: '1', expires: '2027-01-01' }]))
        .newMarks
    ).toMatchObject([{ number: 'OUT' }]);
  });
  it('asks why something was lost, and notes what was forgotten', () => {
    expect(faultsOf(tear([{ product: 'LOT', lot: 'L1', quantity: '2', lost: true }]))).toEqual([
      'mark.missing reason'
    ]);
    const decision = tear([{ product: 'LOT', lot: 'L1', quantity: '2' }]);
    expect(decision.ok && decision.notes[0]!.message).toContain(
      'C1 went into SER U1 and is not among what came out'
    );
    expect(faultsOf(tear([]))).toEqual(['mark.missing units[0]']);
  });
});
