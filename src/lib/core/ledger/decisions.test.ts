import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatQuantity, quantity, total, ZERO } from '../quantity/quantity.ts';
import type { Decision, Rows } from './booking.ts';
import { decideBuild } from '../making/build.ts';
import { decideCorrection } from '../stock/correct.ts';
import { decideQuality } from '../quality/decide-quality.ts';
import { decideReceipt } from '../receiving/receive.ts';
import { decideShipment } from '../shipping/ship.ts';
import { snapshot } from './testing/snapshot.ts';
import { sayPath } from './use-mark.ts';

const rowsOf = (decision: Decision): Rows => {
  if (!decision.ok) throw new Error(decision.faults.map((fault) => fault.message).join('\n'));
  return decision.rows;
};
const faultsOf = (decision: Decision): string[] =>
  decision.ok ? [] : decision.faults.map((fault) => `${fault.code} ${fault.path}`);
const moves = (rows: Rows) =>
  rows.movements.map((row) => [row.mark, row.placeId, formatQuantity(row.quantity)]);
const receipt = (lines: Parameters<typeof decideReceipt>[1]['lines']) => ({
  document: 'R',
  supplier: 'sup',
  lines
});

describe('a receipt', () => {
  it('makes a lot with its serials within it, the lot once', () => {
    const rows = rowsOf(
      decideReceipt(
        snapshot(),
        receipt([
          {
            product: 'sil',
            place: 'a',
            quantity: '2',
            marks: [
              { lot: 'L', serial: 'S1' },
              { lot: 'l', serial: 'S2', expires: '2030-01-31' }
            ]
          }
        ])
      )
    );
    expect(rows.newMarks.map((mark) => [mark.kind, mark.number, mark.lot, mark.expiresOn])).toEqual(
      [
        ['lot', 'L', null, null],
        ['serial', 'S1', -1, null],
        ['serial', 'S2', -1, '2030-01-31']
      ]
    );
    expect(moves(rows)).toEqual([
      [-2, 1, '1'],
      [-3, 1, '1']
    ]);
    expect(rows.answer).toEqual([-2, -3]);
  });

  it('computes an expiry from the shelf life, and a given one goes before it', () => {
    const rows = rowsOf(
      decideReceipt(
        snapshot(),
        receipt([
          {
            product: 'FRESH',
            place: 'A',
            quantity: '3',
            marks: [
              { lot: 'X', quantity: '1' },
              { lot: 'Y', quantity: '2', expires: '2027-01-01' }
            ]
          }
        ])
      )
    );
    expect(rows.newMarks.map((mark) => mark.expiresOn)).toEqual(['2026-12-03', '2027-01-01']);
  });

  it('keeps unnumbered stock on one bulk mark', () => {
    expect(
      rowsOf(decideReceipt(snapshot(), receipt([{ product: 'BULK', place: 'A', quantity: '7' }])))
        .newMarks
    ).toMatchObject([{ kind: 'bulk', number: null }]);
    const known = snapshot({ marks: [{ id: 40, product: 'BULK', number: null }] });
    expect(
      moves(
        rowsOf(
          decideReceipt(known, receipt([{ product: 'BULK', place: 'A', quantity: '7', marks: [] }]))
        )
      )
    ).toEqual([[40, 1, '7']]);
  });

  it('notes that goods have expired already, and takes them in all the same', () => {
    const decision = decideReceipt(
      snapshot(),
      receipt([
        {
          product: 'LOT',
          place: 'A',
          quantity: '1',
          marks: [{ lot: 'OLD', expires: '2026-11-22' }]
        }
      ])
    );
    expect(decision.ok && decision.notes[0]!.message).toContain('expired on 22 Nov 2026');
  });

  it('says where a serial lies that is on hand already', () => {
    const decision = decideReceipt(
      snapshot({ marks: [{ id: 9, product: 'SER', number: 'TN-004417' }], stock: [[9, 'B', '1']] }),
      receipt([{ product: 'SER', place: 'A', quantity: '1', marks: [{ serial: 'tn-004417' }] }])
    );
    expect(!decision.ok && decision.faults[0]!.message).toBe(
      'Serial TN-004417 is already on hand at Works, rack B, since 3 Mar 2026. Remove it here or give another number.'
    );
  });

  it.each([
    [
      'number where there is none',
      { product: 'BULK', place: 'A', quantity: '1', marks: [{ lot: 'X' }] },
      ['number.malformed lines[0]']
    ],
    [
      'serial for a lot product',
      { product: 'LOT', place: 'A', quantity: '1', marks: [{ serial: 'X' }] },
      ['number.malformed lines[0].marks[0]']
    ],
    [
      'two of one serial',
      { product: 'SER', place: 'A', quantity: '2', marks: [{ serial: 'X', quantity: '2' }] },
      ['quantity.mismatch lines[0].marks[0]']
    ],
    [
      'finer than counted',
      { product: 'LOT', place: 'A', quantity: '0.001', marks: [{ lot: 'X' }] },
      ['quantity.not-whole lines[0].quantity']
    ],
    [
      'more serials than said',
      { product: 'SER', place: 'A', quantity: '1', marks: [{ serial: 'X' }, { serial: 'Y' }] },
      ['quantity.mismatch lines[0].quantity']
    ],
    [
      'no quantity at all',
      { product: 'LOT', place: 'A', quantity: 'many', marks: [{ lot: 'X' }] },
      ['quantity.mismatch lines[0].quantity']
    ]
  ])('refuses a %s', (_, line, expected) =>
    expect(faultsOf(decideReceipt(snapshot(), receipt([line])))).toEqual(expected)
  );
});

describe('a build', () => {
  const known = snapshot({
    marks: [
      { id: 1, product: 'LOT', number: 'L1' },
      { id: 2, product: 'SER', number: 'S1' }
    ],
    stock: [
      [1, 'A', '1.5'],
      [1, 'B', '2'],
      [2, 'B', '1']
    ]
  });

  it('takes from its own place first, then elsewhere, and ties inputs to outputs', () => {
    const rows = rowsOf(
      decideBuild(known, {
        document: 'B',
        place: 'B',
        groups: [
          {
            outputs: [{ product: 'LOT', lot: 'OUT', quantity: '1' }],
            inputs: [{ product: 'LOT', lot: 'L1', quantity: '3' }]
          }
        ]
      })
    );
    expect(moves(rows)).toEqual([
      [1, 2, '-2'],
      [1, 1, '-1'],
      [-1, 2, '1']
    ]);
    expect(
      rows.transformations.map((t) => [
        t.inputs.map((row) => [row.mark, formatQuantity(row.quantity)]),
        t.outputs.map((row) => row.mark)
      ])
    ).toEqual([[[[1, '3']], [-1]]]);
  });

  it('keeps to a place that is named', () => {
    const decision = decideBuild(known, {
      document: 'B',
      place: 'B',
      groups: [
        {
          outputs: [{ product: 'LOT', lot: 'OUT', quantity: '1' }],
          inputs: [{ product: 'LOT', lot: 'L1', quantity: '2', place: 'A' }]
        }
      ]
    });
    expect(faultsOf(decision)).toEqual(['stock.short groups[0].inputs[0]']);
  });

  it('is never given more than there is, whatever is asked of it (property)', () => {
    const amount = fc.integer({ min: 1, max: 200 }).map((n) => String(n / 100));
    fc.assert(
      fc.property(
        fc.array(
          fc.array(
            fc.record({
              quantity: amount,
              place: fc.option(fc.constantFrom('A', 'B'), { nil: undefined })
            }),
            { maxLength: 3 }
          ),
          { minLength: 1, maxLength: 4 }
        ),
        (groups) => {
          const decision = decideBuild(known, {
            document: 'B',
            place: 'A',
            groups: groups.map((inputs, index) => ({
              outputs: [{ product: 'SER', serial: `O${index}` }],
              inputs: inputs.map((input) => ({ product: 'LOT', lot: 'L1', ...input }))
            }))
          });
          const asked = total(groups.flat().map((input) => quantity(input.quantity)));
          if (!decision.ok) {
            expect(decision.faults.every((fault) => fault.code === 'stock.short')).toBe(true);
            return;
          }
          const taken = (place: number) =>
            decision.rows.movements
              .filter((row) => row.mark === 1 && row.placeId === place)
              .reduce((sum, row) => sum.minus(row.quantity), ZERO);
          expect(taken(1).lte('1.5') && taken(2).lte('2')).toBe(true);
          expect(taken(1).plus(taken(2)).eq(asked)).toBe(true);
        }
      ),
      { numRuns: 300 }
    );
  });

  it('says both places of a part used twice', () => {
    const decision = decideBuild(known, {
      document: 'B',
      place: 'B',
      groups: [1, 2].map((n) => ({
        outputs: [{ product: 'SER', serial: `O${n}` }],
        inputs: [{ product: 'SER', serial: 'S1' }]
      }))
    });
    expect(!decision.ok && decision.faults[0]!.message).toBe(
      'Serial S1 is already used at unit 1, component 1. A single unit can go only one way: remove one of the two.'
    );
    expect(sayPath('lines[1].marks[4]')).toBe('line 2, row 5');
  });
});

describe('a shipment', () => {
  it('refuses held, rejected and expired, the serial of a held lot too, all at once', () => {
    const known = snapshot({
      marks: [
        { id: 1, product: 'LOT', number: 'HELD', state: 'held' },
        { id: 2, product: 'LOT', number: 'BAD', state: 'rejected' },
        { id: 3, product: 'LOT', number: 'OLD', expires: '2026-11-22' },
        { id: 4, product: 'LOT', number: 'TODAY', expires: '2026-11-23' },
        { id: 5, product: 'SIL', number: 'SL', kind: 'lot', state: 'held' },
        { id: 6, product: 'SIL', number: 'S6', lotId: 5 }
      ],
      stock: [
        [1, 'A', '1'],
        [2, 'A', '1'],
        [3, 'A', '1'],
        [4, 'A', '1'],
        [6, 'A', '1']
      ]
    });
    const decision = decideShipment(known, {
      document: 'S',
      customer: 'CUS',
      lines: [
        {
          product: 'LOT',
          marks: ['HELD', 'BAD', 'OLD', 'TODAY'].map((lot) => ({ lot, quantity: '1' }))
        },
        { product: 'SIL', marks: [{ serial: 'S6' }] }
      ]
    });
    expect(faultsOf(decision)).toEqual([
      'mark.held lines[0].marks[0]',
      'mark.rejected lines[0].marks[1]',
      'mark.expired lines[0].marks[2]',
      'mark.held lines[1].marks[0]'
    ]);
  });

  it('goes only to a customer, and by quantity only what has no numbers', () => {
    const decision = decideShipment(
      snapshot({ marks: [{ id: 1, product: 'BULK', number: null }], stock: [[1, 'A', '5']] }),
      {
        document: 'S',
        customer: 'SUP',
        lines: [
          { product: 'BULK', place: 'A', quantity: '5' },
          { product: 'SER', place: 'A', quantity: '2' }
        ]
      }
    );
    expect(faultsOf(decision)).toEqual(['partner.unknown customer', 'mark.missing lines[1].marks']);
  });

  it('says what a number is when it is another product’s', () => {
    const decision = decideShipment(
      snapshot({ elsewhere: new Map([['X1', { kind: 'lot', product: 'TUBE oral tube' }]]) }),
      { document: 'S', customer: 'CUS', lines: [{ product: 'SER', marks: [{ serial: 'x1' }] }] }
    );
    expect(!decision.ok && decision.faults[0]).toMatchObject({
      code: 'mark.wrong-product',
      message: 'x1 is a lot of TUBE oral tube, not of SER ser. Take a SER.'
    });
  });
});

describe('orders', () => {
  const order = {
    id: 1,
    number: 'PO-1',
    closed: false,
    partner: 'SUP',
    lines: new Map([[1, { ordered: quantity(10), most: quantity(10), done: quantity(8) }]]),
    announced: new Set<string>(),
    bill: null,
    named: 0
  };
  const of = (amount: string, more: object = {}) =>
    decideReceipt(
      snapshot({ order: { ...order, ...more } }),
      receipt([{ product: 'LOT', place: 'A', quantity: amount, marks: [{ lot: 'N' }] }])
    );
  it('are filled to what is left and not beyond', () => {
    expect(of('2').ok).toBe(true);
    const decision = of('2.5');
    expect(!decision.ok && decision.faults[0]!.message).toBe(
      '10 each of LOT were ordered and 8 are booked, so 2 are left; this sheet has 2.5. Take 0.5 off, or change the order.'
    );
  });
  it('are with one partner, and closed when they are closed', () => {
    expect(faultsOf(of('1', { partner: 'OTHER' }))).toEqual(['partner.unknown document']);
    expect(faultsOf(of('1', { closed: true }))).toEqual(['order.closed document']);
  });
  it('may be made beyond, with a note', () => {
    const decision = decideBuild(snapshot({ order: { ...order, partner: null } }), {
      document: 'PO-1',
      place: 'A',
      groups: [{ outputs: [{ product: 'LOT', lot: 'N', quantity: '3' }], inputs: [] }]
    });
    expect(decision.ok && decision.notes).toHaveLength(1);
  });
});

describe('corrections and decisions of quality', () => {
  const known = snapshot({
    marks: [
      { id: 1, product: 'LOT', number: 'L1', state: 'rejected' },
      { id: 2, product: 'SER', number: 'S1' },
      { id: 3, product: 'LOT', number: 'L2' }
    ],
    stock: [
      [1, 'A', '3'],
      [2, 'A', '1'],
      [3, 'A', '1']
    ]
  });
  it('scrap what may not be used any more', () =>
    expect(
      moves(
        rowsOf(
          decideCorrection(known, {
            document: 'C',
            kind: 'scrap',
            lines: [{ product: 'LOT', lot: 'L1', place: 'A', quantity: '3' }]
          })
        )
      )
    ).toEqual([[1, 1, '-3']]));
  it('gain only what can be more', () => {
    expect(
      moves(
        rowsOf(
          decideCorrection(known, {
            document: 'C',
            kind: 'gain',
            lines: [{ product: 'LOT', lot: 'L2', place: 'B', quantity: '0.5' }]
          })
        )
      )
    ).toEqual([[3, 2, '0.5']]);
    expect(
      faultsOf(
        decideCorrection(known, {
          document: 'C',
          kind: 'gain',
          lines: [{ product: 'SER', serial: 'S1', place: 'A' }]
        })
      )
    ).toEqual(['mark.duplicate lines[0]']);
  });
  it('lose no more than there is', () =>
    expect(
      faultsOf(
        decideCorrection(known, {
          document: 'C',
          kind: 'loss',
          lines: [{ product: 'LOT', lot: 'L2', place: 'B', quantity: '1' }]
        })
      )
    ).toEqual(['stock.short lines[0]']));
  it('change a state once, and a rejected mark is not released at one go', () => {
    const decision = decideQuality(known, {
      document: 'Q',
      kind: 'hold',
      marks: [
        { product: 'LOT', lot: 'L2' },
        { product: 'LOT', lot: 'l2' },
        { product: 'SER', serial: 'S1' }
      ]
    });
    expect(rowsOf(decision).changes).toEqual([
      { mark: 3, field: 'state', from: 'usable', to: 'held' },
      { mark: 2, field: 'state', from: 'usable', to: 'held' }
    ]);
    expect(
      faultsOf(
        decideQuality(known, {
          document: 'Q',
          kind: 'release',
          marks: [{ product: 'LOT', lot: 'L1' }]
        })
      )
    ).toEqual(['mark.rejected marks[0]']);
    const already = decideQuality(known, {
      document: 'Q',
      kind: 'release',
      marks: [{ product: 'LOT', lot: 'L2' }]
    });
    expect(already.ok && already.notes[0]!.message).toBe('Lot L2 is usable already.');
  });
});
