import { NO_WISHES } from '../catalogue/wishes.ts';
import { describe, expect, it } from 'vitest';
import { makeSscc } from '../gs1/sscc.ts';
import { quantity } from '../quantity/quantity.ts';
import { decidePacking } from './pack.ts';
import { decideReturn } from './return.ts';
import { decideShipment } from './ship.ts';
import type { Packing } from '../ledger/request.ts';
import type { KnownUnit, Snapshot } from '../ledger/snapshot.ts';
import { snapshot } from '../ledger/testing/snapshot.ts';

const [A, B, P] = [1, 2, 3].map((serial) => makeSscc('9520001', serial)) as [
  string,
  string,
  string
];
const unit = (sscc: string, more: Partial<KnownUnit> = {}): [string, KnownUnit] => [
  sscc,
  {
    id: Number(sscc.slice(-4, -1)),
    sscc,
    kind: 'carton',
    order: 'SO-1',
    shipped: null,
    pallet: null,
    cartons: [],
    contents: new Map(),
    ...more
  }
];
const order: Snapshot['order'] = {
  id: 5,
  number: 'SO-1',
  closed: false,
  partner: 'CUS',
  lines: new Map([
    [1, { ordered: quantity(20), most: quantity(20), done: quantity(0) }],
    [2, { ordered: quantity(5), most: quantity(5), done: quantity(0) }]
  ]),
  announced: new Set(),
  bill: null,
  named: 0
};
const marks = [
  { id: 1, product: 'LOT', number: 'L1', expires: '2027-01-31' },
  { id: 2, product: 'LOT', number: 'L2', expires: '2027-06-30' },
  { id: 3, product: 'SER', number: 'S1' },
  { id: 4, product: 'SER', number: 'S2' }
];
const stock: [number, string, string][] = [
  [1, 'A', '10'],
  [2, 'B', '10'],
  [3, 'A', '1'],
  [4, 'A', '1']
];
const world = (more: Parameters<typeof snapshot>[0] = {}) =>
  snapshot({ marks, stock, order, ...more });
const packing = (more: Partial<Packing>): Packing => ({
  document: 'SO-1',
  kind: 'pack',
  lines: [],
  units: [],
  ...more
});
const codes = (decision: { ok: boolean; faults?: { code: string }[] }) =>
  decision.ok ? [] : decision.faults!.map((fault) => fault.code);
const first = (decision: ReturnType<typeof decidePacking>) =>
  decision.ok ? '' : decision.faults[0]!.message;

describe('packing', () => {
  it('begins a carton with what goes in, and moves nothing', () => {
    const decision = decidePacking(
      world(),
      packing({
        lines: [
          { product: 'LOT', lot: 'L1', quantity: '4' },
          { product: 'SER', serial: 'S1' }
        ]
      })
    );
    expect(decision).toMatchObject({
      ok: true,
      rows: { newUnits: [{ kind: 'carton', orderId: 5 }], movements: [] }
    });
    expect(
      decision.ok &&
        decision.rows.packings.map((row) => [row.unit, row.mark, row.quantity.toFixed()])
    ).toEqual([
      [-1, 1, '4'],
      [-1, 3, '1']
    ]);
  });
  it('refuses a serial that is in another carton, saying which', () => {
    const packed = new Map([[3, [{ sscc: A, quantity: quantity(1) }]]]);
    expect(
      first(
        decidePacking(world({ packed }), packing({ lines: [{ product: 'SER', serial: 'S1' }] }))
      )
    ).toContain(`in carton …${A.slice(-6)} already`);
    expect(
      codes(
        decidePacking(
          world(),
          packing({
            lines: [
              { product: 'SER', serial: 'S1' },
              { product: 'SER', serial: 'S1' }
            ]
          })
        )
      )
    ).toEqual(['mark.duplicate']);
  });
  it('refuses more of a lot than lies loose, what is not on the order, what is held, and goods straight onto a pallet', () => {
    const packed = new Map([[1, [{ sscc: A, quantity: quantity(7) }]]]);
    expect(
      first(
        decidePacking(
          world({ packed }),
          packing({ lines: [{ product: 'LOT', lot: 'L1', quantity: '4' }] })
        )
      )
    ).toContain('3 are loose');
    expect(
      codes(decidePacking(world(), packing({ lines: [{ product: 'BULK', quantity: '1' }] })))
    ).toEqual(['mark.wrong-product']);
    expect(
      codes(
        decidePacking(
          snapshot({ marks: [{ ...marks[0]!, state: 'held' }], stock, order }),
          packing({ lines: [{ product: 'LOT', lot: 'L1', quantity: '1' }] })
        )
      )
    ).toEqual(['mark.held']);
    expect(
      codes(
        decidePacking(
          world(),
          packing({ make: 'pallet', lines: [{ product: 'SER', serial: 'S1' }] })
        )
      )
    ).toEqual(['mark.wrong-product']);
  });
  it('keeps one date in a carton where the customer wants it, unless a reason is written', () => {
    const asked = {
      wishes: new Map([[1, { ...NO_WISHES, oneDate: true }]]),
      units: new Map([unit(A, { contents: new Map([[1, quantity(2)]]) })])
    };
    const request = packing({ unit: A, lines: [{ product: 'LOT', lot: 'L2', quantity: '1' }] });
    const refused = decidePacking(world(asked), request);
    expect(refused).toMatchObject({
      ok: false,
      faults: [
        {
          code: 'wish.unmet',
          answer: 'reason',
          message: expect.stringContaining('31 Jan 2027 and 30 Jun 2027')
        }
      ]
    });
    expect(
      decidePacking(world(asked), {
        ...request,
        reasons: { 'wish.unmet': 'agreed by telephone' }
      })
    ).toMatchObject({ ok: true, rows: { remarks: [{ reason: 'agreed by telephone' }] } });
    expect(decidePacking(world({ units: asked.units }), request).ok).toBe(true);
  });
  it('puts cartons on pallets once, and not pallets on cartons', () => {
    const units = new Map([
      unit(A),
      unit(B, { pallet: P }),
      unit(P, { kind: 'pallet', cartons: [B] })
    ]);
    expect(decidePacking(world({ units }), packing({ unit: P, units: [A] }))).toMatchObject({
      ok: true,
      rows: { packings: [{ child: Number(A.slice(-4, -1)) }] }
    });
    expect(
      first(decidePacking(world({ units }), packing({ make: 'pallet', units: [B] })))
    ).toContain(`stands on pallet ${P} already`);
    expect(codes(decidePacking(world({ units }), packing({ unit: A, units: [B] })))).toEqual([
      'mark.wrong-product'
    ]);
    expect(
      codes(decidePacking(world({ units }), packing({ make: 'pallet', units: [A, A] })))
    ).toEqual(['mark.duplicate']);
  });
  it('takes out what is in, and says what is not; a carton that left stays as it is', () => {
    const units = new Map([
      unit(A, { contents: new Map([[1, quantity(3)]]) }),
      unit(B, { shipped: 'SO-0' })
    ]);
    const out = decidePacking(
      world({ units }),
      packing({ kind: 'unpack', unit: A, lines: [{ product: 'LOT', lot: 'L1' }] })
    );
    expect(out.ok && out.rows.packings[0]!.quantity.toFixed()).toBe('-3');
    expect(
      codes(
        decidePacking(
          world({ units }),
          packing({
            kind: 'unpack',
            unit: A,
            lines: [
              { product: 'SER', serial: 'S1' },
              { product: 'LOT', lot: 'L1', quantity: '4' }
            ]
          })
        )
      )
    ).toEqual(['mark.unknown', 'quantity.mismatch']);
    expect(
      first(
        decidePacking(
          world({ units }),
          packing({ unit: B, lines: [{ product: 'SER', serial: 'S1' }] })
        )
      )
    ).toContain('has left with SO-0');
    expect(first(decidePacking(world({ units }), packing({ unit: '123', lines: [] })))).toContain(
      'no SSCC: eighteen digits'
    );
  });
});

describe('shipping what is packed', () => {
  const contents = new Map([
    [1, quantity(4)],
    [3, quantity(1)]
  ]);
  const packed = new Map([
    [1, [{ sscc: A, quantity: quantity(4) }]],
    [3, [{ sscc: A, quantity: quantity(1) }]]
  ]);
  it('takes all that is in the carton, and the carton with it', () => {
    const decision = decideShipment(world({ units: new Map([unit(A, { contents })]), packed }), {
      document: 'SO-1',
      customer: 'CUS',
      lines: [],
      units: [A]
    });
    expect(decision).toMatchObject({ ok: true, rows: { shippedUnits: [Number(A.slice(-4, -1))] } });
    expect(
      decision.ok && decision.rows.movements.map((row) => [row.mark, row.quantity.toFixed()])
    ).toEqual([
      [1, '-4'],
      [3, '-1']
    ]);
  });
  it('refuses goods loose that are packed in a carton that stays, however they are named', () => {
    const refused = decideShipment(world({ units: new Map([unit(A, { contents })]), packed }), {
      document: 'SO-1',
      customer: 'CUS',
      lines: [
        { product: 'SER', marks: [{ serial: 'S1' }] },
        { product: 'LOT', marks: [{ lot: 'L1', quantity: '7' }] }
      ]
    });
    expect(codes(refused)).toEqual(['balance.open', 'balance.open']);
    expect(
      decideShipment(world({ units: new Map([unit(A, { contents })]), packed }), {
        document: 'SO-1',
        customer: 'CUS',
        lines: [{ product: 'LOT', marks: [{ lot: 'L1', quantity: '6' }] }]
      }).ok
    ).toBe(true);
  });
  it('ships a pallet with its cartons and no carton without its pallet; an empty or shipped one is told', () => {
    const units = new Map([
      unit(A, { contents, pallet: P }),
      unit(P, { kind: 'pallet', cartons: [A] }),
      unit(B)
    ]);
    const whole = decideShipment(world({ units, packed }), {
      document: 'SO-1',
      customer: 'CUS',
      lines: [],
      units: [P]
    });
    expect(whole.ok && whole.rows.shippedUnits).toHaveLength(2);
    expect(
      first(
        decideShipment(world({ units, packed }), {
          document: 'SO-1',
          customer: 'CUS',
          lines: [],
          units: [A]
        })
      )
    ).toContain(`stands on pallet ${P}`);
    expect(
      first(
        decideShipment(world({ units, packed }), {
          document: 'SO-1',
          customer: 'CUS',
          lines: [],
          units: [B]
        })
      )
    ).toContain('is empty');
    expect(
      first(
        decideShipment(world({ units: new Map([unit(B, { shipped: 'SO-0' })]) }), {
          document: 'SO-1',
          customer: 'CUS',
          lines: [],
          units: [B]
        })
      )
    ).toContain('has left already, with SO-0');
  });
});

describe('a return', () => {
  const sale = (amount: string, more = {}) => ({
    event: 70,
    document: 'SO-9',
    day: '2026-10-01',
    partner: 'Customer',
    partnerId: 2,
    quantity: quantity(amount),
    ...more
  });
  const back = (
    lines: { product: string; serial?: string; lot?: string; quantity?: string }[],
    given: Parameters<typeof snapshot>[0],
    customer?: string
  ) =>
    decideReturn(snapshot({ marks, ...given }), {
      document: 'RT-1',
      place: 'B',
      lines,
      ...(customer ? { customer } : {})
    });
  it('finds its sale, lies at the returns place and is held', () => {
    const decision = back([{ product: 'SER', serial: 'S1' }], {
      sales: new Map([[3, [sale('1')]]])
    });
    expect(decision).toMatchObject({
      ok: true,
      rows: {
        partnerId: 2,
        changes: [{ mark: 3, field: 'state', to: 'held' }],
        returned: [{ mark: 3, shipmentId: 70 }],
        movements: [{ mark: 3, placeId: 2 }]
      }
    });
  });
  it('refuses what was never shipped, what is back already, what another customer has, and more than they have', () => {
    expect(first(back([{ product: 'SER', serial: 'S1' }], { stock }))).toContain(
      'was never shipped: it lies at Works, rack A'
    );
    expect(first(back([{ product: 'SER', serial: 'S9' }], {}))).toContain(
      'never shipped from here'
    );
    expect(
      first(back([{ product: 'SER', serial: 'S1' }], { sales: new Map([[3, [sale('0')]]]) }))
    ).toContain('is back already');
    expect(
      first(
        back(
          [{ product: 'SER', serial: 'S1' }],
          { sales: new Map([[3, [sale('1', { partner: 'Other', partnerId: 7 })]]]) },
          'CUS'
        )
      )
    ).toContain('shipped to Other, not to Customer');
    expect(
      first(
        back([{ product: 'LOT', lot: 'L1', quantity: '5' }], { sales: new Map([[1, [sale('4')]]]) })
      )
    ).toContain('Take 1 off');
    expect(
      codes(
        back(
          [
            { product: 'SER', serial: 'S1' },
            { product: 'SER', serial: 'S1' }
          ],
          { sales: new Map([[3, [sale('1')]]]) }
        )
      )
    ).toEqual(['mark.duplicate']);
  });
  const twice = {
    sales: new Map([[1, [sale('4', { event: 72 }), sale('4', { event: 71 })]]]),
    stock: [[1, 'A', '2']] as [number, string, string][]
  };
  it('spreads a lot over its shipments, the latest first, and does not hold good stock of it', () => {
    const decision = back([{ product: 'LOT', lot: 'L1', quantity: '5' }], twice);
    expect(
      decision.ok && decision.rows.returned.map((row) => [row.shipmentId, row.quantity.toFixed()])
    ).toEqual([
      [72, '4'],
      [71, '1']
    ]);
    expect(decision).toMatchObject({
      ok: true,
      rows: { changes: [] },
      notes: [{ message: expect.stringContaining('not held as a whole') }]
    });
  });
  it('refuses a lot on two lines: of one shipment it could come back only once', () => {
    const line = { product: 'LOT', lot: 'L1', quantity: '2' };
    const decision = back([line, line], twice);
    expect(!decision.ok && decision.faults).toMatchObject([
      { code: 'mark.duplicate', path: 'lines[1]' }
    ]);
  });
});
