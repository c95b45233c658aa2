import { describe, expect, it } from 'vitest';
import { WAYS } from '../catalogue/plan.ts';
import { quantity } from '../quantity/quantity.ts';
import { decideAmendment } from '../stock/amend.ts';
import type { Decision, Rows } from '../ledger/booking.ts';
import { decideBuild } from '../making/build.ts';
import { decideIdentification } from '../stock/give-numbers.ts';
import { decideMove } from '../stock/decide-move.ts';
import { decideReceipt } from './receive.ts';
import type { Receipt } from '../ledger/request.ts';
import { decideShipment } from '../shipping/ship.ts';
import { snapshot } from '../ledger/testing/snapshot.ts';

const rowsOf = (decision: Decision): Rows => {
  if (!decision.ok) throw new Error(decision.faults.map((fault) => fault.message).join('\n'));
  return decision.rows;
};
const faultsOf = (decision: Decision): string[] =>
  decision.ok ? [] : decision.faults.map((fault) => `${fault.code} ${fault.path}`);
const moves = (rows: Rows) =>
  rows.movements.map((row) => [row.mark, row.placeId, row.quantity.toFixed()]);
const receipt = (lines: Receipt['lines'], more: Partial<Receipt> = {}): Receipt => ({
  document: 'R',
  supplier: 'SUP',
  lines,
  ...more
});
const LATE = { SER: { asks: WAYS['only when it is shipped'] } };
const SOON = {
  SER: { asks: WAYS['at every step, but it may come later'] },
  SIL: { asks: WAYS['at every step, but it may come later'] }
};

describe('a serial that is taken only at shipping', () => {
  it('comes in by quantity, and a serial given too early is refused with when it is asked', () => {
    const rows = rowsOf(
      decideReceipt(
        snapshot({ plans: LATE }),
        receipt([{ product: 'SER', place: 'A', quantity: '5' }])
      )
    );
    expect(rows.newMarks).toMatchObject([{ kind: 'bulk', number: null }]);
    expect(moves(rows)).toEqual([[-1, 1, '5']]);
    const early = decideReceipt(
      snapshot({ plans: LATE }),
      receipt([{ product: 'SER', place: 'A', quantity: '1', marks: [{ serial: 'S1' }] }])
    );
    expect(!early.ok && early.faults[0]).toMatchObject({
      code: 'number.malformed',
      message:
        'The plan of SER takes no serial when it is received, only when it is shipped. Leave S1 out.'
    });
  });
  it('is given to units of the unnumbered stock when they go, tied to what they were', () => {
    const known = snapshot({
      plans: LATE,
      marks: [{ id: 9, product: 'SER', number: null }],
      stock: [[9, 'A', '5']]
    });
    const rows = rowsOf(
      decideShipment(known, {
        document: 'S',
        customer: 'CUS',
        lines: [{ product: 'SER', marks: [{ serial: 'S1' }, { serial: 'S2' }] }]
      })
    );
    expect(rows.newMarks.map((mark) => [mark.number, mark.byIdentify])).toEqual([
      ['S1', true],
      ['S2', true]
    ]);
    expect(rows.identified.movements.map((row) => [row.mark, row.quantity.toFixed()])).toEqual([
      [9, '-1'],
      [-1, '1'],
      [9, '-1'],
      [-2, '1']
    ]);
    expect(rows.identified.transformations).toEqual([
      {
        inputs: [{ mark: 9, quantity: quantity(2) }],
        outputs: [
          { mark: -1, quantity: quantity(1) },
          { mark: -2, quantity: quantity(1) }
        ]
      }
    ]);
    expect(moves(rows)).toEqual([
      [-1, 1, '-1'],
      [-2, 1, '-1']
    ]);
  });
  it('is not conjured up: no more than lie there, and none twice', () => {
    const known = snapshot({
      plans: LATE,
      marks: [{ id: 9, product: 'SER', number: null }],
      stock: [[9, 'A', '1']]
    });
    expect(
      faultsOf(
        decideShipment(known, {
          document: 'S',
          customer: 'CUS',
          lines: [{ product: 'SER', marks: [{ serial: 'S1' }, { serial: 'S2' }] }]
        })
      )
    ).toEqual(['mark.unknown lines[0].marks[1]']);
    expect(
      faultsOf(
        decideShipment(
          snapshot({
            plans: LATE,
            marks: [{ id: 9, product: 'SER', number: null }],
            stock: [[9, 'A', '3']]
          }),
          {
            document: 'S',
            customer: 'CUS',
            lines: [{ product: 'SER', marks: [{ serial: 'S1' }, { serial: 's1' }] }]
          }
        )
      )
    ).toEqual(['mark.duplicate lines[0].marks[1]']);
  });
  it('of a product followed all the way is never given by a slip of the scanner', () => {
    const known = snapshot({
      marks: [{ id: 9, product: 'SER', number: null }],
      stock: [[9, 'A', '5']]
    });
    expect(
      faultsOf(
        decideShipment(known, {
          document: 'S',
          customer: 'CUS',
          lines: [{ product: 'SER', marks: [{ serial: 'TYPO' }] }]
        })
      )
    ).toEqual(['mark.unknown lines[0].marks[0]']);
  });
});

describe('numbers that may come later', () => {
  it('leave the rest of a line by quantity, within its lot where it has one', () => {
    const rows = rowsOf(
      decideReceipt(
        snapshot({ plans: SOON }),
        receipt([
          { product: 'SER', place: 'A', quantity: '3', marks: [{ serial: 'S1' }] },
          { product: 'SIL', place: 'A', quantity: '4', marks: [{ lot: 'L', serial: 'X1' }] }
        ])
      )
    );
    expect(rows.newMarks.map((mark) => `${mark.kind} ${mark.number}`)).toEqual([
      'serial S1',
      'bulk null',
      'lot L',
      'serial X1'
    ]);
    expect(moves(rows)).toEqual([
      [-1, 1, '1'],
      [-2, 1, '2'],
      [-4, 1, '1'],
      [-3, 1, '3']
    ]);
  });
  it('do not let a line have more numbers than goods', () =>
    expect(
      faultsOf(
        decideReceipt(
          snapshot({ plans: SOON }),
          receipt([
            {
              product: 'SER',
              place: 'A',
              quantity: '1',
              marks: [{ serial: 'S1' }, { serial: 'S2' }]
            }
          ])
        )
      )
    ).toEqual(['quantity.mismatch lines[0].quantity']));
  it('are given by identify: bulk to serials, a lot to serials within it, each with what is known of the stock', () => {
    const known = snapshot({
      plans: SOON,
      marks: [
        { id: 9, product: 'SER', number: null },
        { id: 8, product: 'SIL', number: 'L', kind: 'lot', expires: '2030-01-01' }
      ],
      stock: [
        [9, 'A', '3'],
        [8, 'A', '2']
      ]
    });
    const rows = rowsOf(
      decideIdentification(known, {
        document: 'I',
        lines: [
          { product: 'SER', place: 'A', marks: [{ serial: 'S1' }, { serial: 'S2' }] },
          { product: 'SIL', place: 'A', lot: 'L', marks: [{ serial: 'X1' }] }
        ]
      })
    );
    expect(moves(rows)).toEqual([
      [9, 1, '-2'],
      [-1, 1, '1'],
      [-2, 1, '1'],
      [8, 1, '-1'],
      [-3, 1, '1']
    ]);
    expect(rows.transformations.map((one) => one.inputs.map((input) => input.mark))).toEqual([
      [9],
      [8]
    ]);
    expect(rows.newMarks[2]).toMatchObject({ number: 'X1', lot: 8, expiresOn: '2030-01-01' });
  });
  it('are not given to more than lies there, to nothing, or twice', () => {
    const known = snapshot({
      plans: SOON,
      marks: [
        { id: 9, product: 'SER', number: null },
        { id: 7, product: 'SER', number: 'OLD' }
      ],
      stock: [[9, 'A', '1']]
    });
    const line = (...serials: string[]) => ({
      product: 'SER',
      place: 'A',
      marks: serials.map((serial) => ({ serial }))
    });
    expect(
      faultsOf(decideIdentification(known, { document: 'I', lines: [line('S1', 'S2')] }))
    ).toEqual(['stock.short lines[0]']);
    expect(
      faultsOf(decideIdentification(known, { document: 'I', lines: [line('old'), line('N', 'n')] }))
    ).toEqual(['mark.duplicate lines[0].marks[0]', 'mark.duplicate lines[1].marks[1]']);
    expect(
      faultsOf(
        decideIdentification(snapshot({ plans: SOON }), { document: 'I', lines: [line('S')] })
      )
    ).toEqual(['mark.unknown lines[0]']);
    expect(
      faultsOf(
        decideIdentification(known, {
          document: 'I',
          lines: [{ product: 'BULK', place: 'A', marks: [{ serial: 'S' }] }]
        })
      )
    ).toEqual(['number.malformed lines[0]']);
  });
});

describe('the answer to a fault', () => {
  const expired = (answer: 'stop' | 'reason' | 'note') =>
    snapshot({
      plans: {
        LOT: { answers: { ...snapshot().products.get('LOT')!.plan.answers, expired: answer } }
      },
      marks: [{ id: 1, product: 'LOT', number: 'OLD', expires: '2026-11-01' }],
      stock: [[1, 'A', '5']]
    });
  const ship = (answer: 'stop' | 'reason' | 'note', reasons?: Record<string, string>) =>
    decideShipment(expired(answer), {
      document: 'S',
      customer: 'CUS',
      reasons,
      lines: [{ product: 'LOT', marks: [{ lot: 'OLD', quantity: '1' }] }]
    });
  it('stops, whatever reason is given', () =>
    expect(faultsOf(ship('stop', { 'mark.expired': 'please' }))).toEqual([
      'mark.expired lines[0].marks[0]'
    ]));
  it('asks for a reason and says so, then goes on and keeps it', () => {
    const asked = ship('reason', { 'mark.expired': '  ' });
    expect(!asked.ok && asked.faults[0]).toMatchObject({ code: 'mark.expired', answer: 'reason' });
    expect(
      rowsOf(ship('reason', { 'mark.expired': 'customer agreed, letter of 20 Nov' })).remarks
    ).toMatchObject([
      {
        code: 'mark.expired',
        answer: 'reason',
        number: 'OLD',
        reason: 'customer agreed, letter of 20 Nov'
      }
    ]);
  });
  it('goes on with a note, and keeps that too', () => {
    const decision = ship('note');
    expect(decision.ok && decision.notes).toHaveLength(1);
    expect(rowsOf(decision).remarks).toMatchObject([{ answer: 'note', reason: null }]);
  });
  it('names the version of the plan it was taken from', () =>
    expect(rowsOf(ship('note')).plans).toEqual([{ productId: 1, version: 71 }]));
  it('cannot soften stock that is short or a serial already on hand', () => {
    const softest = Object.fromEntries(
      Object.keys(snapshot().products.get('LOT')!.plan.answers).map((key) => [key, 'note'])
    ) as never;
    const known = snapshot({
      plans: { LOT: { answers: softest }, SER: { answers: softest } },
      marks: [
        { id: 1, product: 'LOT', number: 'L' },
        { id: 2, product: 'SER', number: 'S' }
      ],
      stock: [
        [1, 'A', '1'],
        [2, 'A', '1']
      ]
    });
    expect(
      faultsOf(
        decideShipment(known, {
          document: 'S',
          customer: 'CUS',
          lines: [{ product: 'LOT', marks: [{ lot: 'L', quantity: '2' }] }]
        })
      )
    ).toEqual(['stock.short lines[0].marks[0]']);
    expect(
      faultsOf(
        decideReceipt(
          known,
          receipt([{ product: 'SER', place: 'A', quantity: '1', marks: [{ serial: 'S' }] }])
        )
      )
    ).toEqual(['mark.duplicate lines[0].marks[0]']);
  });
});

describe('a receipt', () => {
  it('is counted in packs where a pack is known, and refused in what is not', () => {
    expect(
      moves(
        rowsOf(
          decideReceipt(
            snapshot(),
            receipt([
              {
                product: 'LOT',
                place: 'A',
                quantity: '2.5',
                unit: 'PACK',
                marks: [
                  { lot: 'L1', quantity: '2' },
                  { lot: 'L2', quantity: '0.5' }
                ]
              }
            ])
          )
        )
      )
    ).toEqual([
      [-1, 1, '20'],
      [-2, 1, '5']
    ]);
    expect(
      faultsOf(
        decideReceipt(
          snapshot(),
          receipt([
            { product: 'LOT', place: 'A', quantity: '2', unit: 'drum', marks: [{ lot: 'L1' }] }
          ])
        )
      )
    ).toEqual(['quantity.mismatch lines[0].quantity']);
    expect(
      faultsOf(
        decideReceipt(
          snapshot(),
          receipt([
            { product: 'SER', place: 'A', quantity: '0.25', unit: 'pack', marks: [{ serial: 'S' }] }
          ])
        )
      )
    ).toEqual(['quantity.not-whole lines[0].quantity']);
  });
  it('goes beyond its order by the tolerance and no further', () => {
    const order = {
      id: 1,
      number: 'PO',
      closed: false,
      partner: 'SUP',
      lines: new Map([[1, { ordered: quantity(100), most: quantity(105), done: quantity(90) }]]),
      announced: new Set<string>(),
      bill: null,
      named: 0
    };
    const of = (amount: string) =>
      decideReceipt(
        snapshot({ order }),
        receipt([{ product: 'LOT', place: 'A', quantity: amount, marks: [{ lot: 'L' }] }], {
          document: 'PO'
        })
      );
    const within = of('15');
    expect(within.ok && within.notes[0]!.message).toContain('The tolerance lets 5 more in.');
    expect(faultsOf(of('15.01'))).toEqual(['quantity.mismatch lines[0].quantity']);
  });
  it('says what was not announced, and nothing where nothing was', () => {
    const order = {
      id: 1,
      number: 'PO',
      closed: false,
      partner: 'SUP',
      lines: new Map([[2, { ordered: quantity(9), most: quantity(9), done: quantity(0) }]]),
      announced: new Set(['2 serial S1']),
      bill: null,
      named: 0
    };
    const decision = decideReceipt(
      snapshot({ order }),
      receipt(
        [
          { product: 'SER', place: 'A', quantity: '2', marks: [{ serial: 's1' }, { serial: 'S9' }] }
        ],
        { document: 'PO' }
      )
    );
    expect(decision.ok && decision.notes).toEqual([
      { path: 'lines[0].marks[1]', number: 'S9', message: 'S9 was not announced on PO.' }
    ]);
  });
  it('adds to a lot that is there, offered with what is on hand and its expiry; another expiry is asked about', () => {
    const known = snapshot({
      marks: [{ id: 1, product: 'LOT', number: 'L1', expires: '2027-03-12' }],
      stock: [[1, 'A', '5']]
    });
    const adding = decideReceipt(
      known,
      receipt([{ product: 'LOT', place: 'A', quantity: '2', marks: [{ lot: 'l1' }] }])
    );
    expect(adding.ok && adding.notes[0]!.message).toBe(
      'Adds to Lot L1: 5 each on hand, expires 12 Mar 2027.'
    );
    expect(
      faultsOf(
        decideReceipt(
          known,
          receipt([
            {
              product: 'LOT',
              place: 'A',
              quantity: '2',
              marks: [{ lot: 'l1', expires: '2028-01-01' }]
            }
          ])
        )
      )
    ).toEqual(['mark.duplicate lines[0].marks[0]']);
  });
});

describe('a further delivery of a known lot', () => {
  const temperature = {
    name: 'arrival temperature',
    kind: 'number',
    unit: '°C',
    least: null,
    most: '8',
    choices: [],
    required: true
  } as const;
  const known = snapshot({
    plans: { LOT: { facts: [temperature] } },
    marks: [
      {
        id: 1,
        product: 'LOT',
        number: 'L1',
        supplierNumber: 'THEIRS-1',
        facts: { 'arrival temperature': { value: '4.5', unit: '°C' } }
      }
    ],
    stock: [[1, 'A', '5']]
  });
  const delivered = (mark: object) =>
    decideReceipt(
      known,
      receipt([{ product: 'LOT', place: 'A', quantity: '2', marks: [{ lot: 'L1', ...mark }] }])
    );

  it('is judged by the limits of its plan like the first', () => {
    expect(faultsOf(delivered({ facts: { 'arrival temperature': '55' } }))).toEqual([
      'mark.off-spec lines[0].marks[0]'
    ]);
  });
  it('keeps what it says for the first time, and a fact measured anew beside the old value', () => {
    const rows = rowsOf(delivered({ made: '2026-01-05', facts: { 'Arrival Temperature': '6' } }));
    expect(rows.changes).toEqual([
      { mark: 1, field: 'made_on', from: null, to: '2026-01-05' },
      { mark: 1, field: 'fact', fact: 'arrival temperature', from: '4.5', to: '6' }
    ]);
  });
  it('need not say again what is known, and may not contradict it', () => {
    expect(rowsOf(delivered({})).changes).toEqual([]);
    expect(faultsOf(delivered({ supplierNumber: 'THEIRS-2' }))).toEqual([
      'mark.duplicate lines[0].marks[0]'
    ]);
    expect(faultsOf(delivered({ made: 'soon' }))).toEqual(['date.missing lines[0].marks[0]']);
  });
  it('on two lines of one sheet says the same on both', () => {
    const line = (quantity: string, expires: string) => ({
      product: 'LOT',
      place: 'A',
      quantity,
      marks: [{ lot: 'NEW', expires, facts: { 'arrival temperature': '5' } }]
    });
    const twice = decideReceipt(known, receipt([line('1', '2027-01-01'), line('2', '2028-01-01')]));
    expect(faultsOf(twice)).toEqual(['mark.duplicate lines[1].marks[0]']);
  });
});

describe('a build', () => {
  it('takes the earliest expiry of what went in where the plan says so', () => {
    const known = snapshot({
      plans: { LOT: { expires: 'components' } },
      marks: [
        { id: 1, product: 'FRESH', kind: 'lot', number: 'A', expires: '2027-05-01' },
        { id: 2, product: 'FRESH', kind: 'lot', number: 'B', expires: '2027-02-01' }
      ],
      stock: [
        [1, 'A', '5'],
        [2, 'A', '5']
      ]
    });
    const rows = rowsOf(
      decideBuild(known, {
        document: 'B',
        place: 'A',
        groups: [
          {
            outputs: [{ product: 'LOT', lot: 'KIT', quantity: '1' }],
            inputs: [
              { product: 'FRESH', lot: 'A', quantity: '1' },
              { product: 'FRESH', lot: 'B', quantity: '1' }
            ]
          }
        ]
      })
    );
    expect(rows.newMarks[0]).toMatchObject({
      number: 'KIT',
      expiresOn: '2027-02-01',
      madeOn: '2026-11-23'
    });
  });
});

describe('a move', () => {
  const known = snapshot({
    marks: [
      { id: 1, product: 'LOT', number: 'L', state: 'held' },
      { id: 2, product: 'SER', number: 'S' }
    ],
    stock: [
      [1, 'A', '5'],
      [2, 'A', '1']
    ]
  });
  it('splits a lot over places and takes held goods along', () => {
    expect(
      moves(
        rowsOf(
          decideMove(known, {
            document: 'M',
            kind: 'put away',
            lines: [
              { product: 'LOT', lot: 'L', from: 'A', to: 'B', quantity: '2' },
              { product: 'SER', serial: 'S', from: 'A', to: 'B' }
            ]
          })
        )
      )
    ).toEqual([
      [1, 1, '-2'],
      [1, 2, '2'],
      [2, 1, '-1'],
      [2, 2, '1']
    ]);
  });
  it('never takes more than lies there, nor goes nowhere', () => {
    expect(
      faultsOf(
        decideMove(known, {
          document: 'M',
          kind: 'move',
          lines: [
            { product: 'LOT', lot: 'L', from: 'A', to: 'B', quantity: '3' },
            { product: 'LOT', lot: 'L', from: 'A', to: 'B', quantity: '3' },
            { product: 'SER', serial: 'S', from: 'B', to: 'B' }
          ]
        })
      )
    ).toEqual(['stock.short lines[1]', 'place.unknown lines[2].to']);
  });
});

describe('an amendment', () => {
  it('refuses a supplier number longer than can be kept, where it stands', () => {
    const known = snapshot({ marks: [{ id: 1, product: 'LOT', number: 'L1' }] });
    const to = (supplierNumber: string) =>
      decideAmendment(known, {
        document: 'A',
        lines: [{ product: 'LOT', lot: 'L1', to: { supplierNumber } }]
      });
    expect(faultsOf(to('x'.repeat(101)))).toEqual(['number.malformed lines[0].to.supplierNumber']);
    expect(rowsOf(to('x'.repeat(100))).changes).toHaveLength(1);
  });
  const known = snapshot({
    plans: {
      LOT: {
        facts: [
          {
            name: 'width',
            kind: 'number',
            unit: 'mm',
            least: '100',
            most: null,
            choices: [],
            required: true
          }
        ]
      }
    },
    marks: [
      {
        id: 1,
        product: 'LOT',
        number: 'L1',
        expires: '2027-01-01',
        facts: { width: { value: '150', unit: 'mm' } }
      },
      { id: 2, product: 'LOT', number: 'L2' }
    ]
  });
  const of = (to: object, lot = 'L1') =>
    decideAmendment(known, { document: 'A', lines: [{ product: 'LOT', lot, to }] });
  it('changes a number, dates, the supplier’s number and facts, each with its old value, and moves nothing', () => {
    const rows = rowsOf(
      of({
        number: 'L1-A',
        expires: '2027-02-01',
        supplierNumber: 'THEIRS',
        facts: { Width: '151' }
      })
    );
    expect(rows.changes).toEqual([
      { mark: 1, field: 'number', from: 'L1', to: 'L1-A' },
      { mark: 1, field: 'expires_on', from: '2027-01-01', to: '2027-02-01' },
      { mark: 1, field: 'supplier_number', from: null, to: 'THEIRS' },
      { mark: 1, field: 'fact', fact: 'width', from: '150', to: '151' }
    ]);
    expect(rows.movements).toEqual([]);
  });
  it('takes a date away', () =>
    expect(rowsOf(of({ expires: null })).changes).toMatchObject([
      { field: 'expires_on', to: null }
    ]));
  it('refuses a number that is taken, no change at all, and what cannot be read', () => {
    expect(faultsOf(of({ number: 'l2' }))).toEqual(['mark.duplicate lines[0].to.number']);
    expect(faultsOf(of({ number: 'L1' }))).toEqual(['quantity.mismatch lines[0]']);
    expect(
      faultsOf(of({ expires: '2027-02-30', number: ' ', facts: { width: 'wide', colour: 'red' } }))
    ).toEqual([
      'date.missing lines[0].to.expires',
      'fact.missing lines[0].to.facts',
      'fact.missing lines[0].to.facts',
      'number.malformed lines[0].to.number'
    ]);
    expect(faultsOf(of({ number: 'X' }, 'NONE'))).toEqual(['mark.unknown lines[0]']);
  });
  it('may change only how a number is written', () =>
    expect(rowsOf(of({ number: 'l1' })).changes).toMatchObject([{ from: 'L1', to: 'l1' }]));
});
