import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { daysLater, monthsLater } from '../../core/calendar/day.ts';
import { ssccUri } from '../../core/exchange/identifiers.ts';
import { epcisDocument, toEpcis } from '../../core/exchange/write.ts';
import { makePickList } from './make-pick-list.ts';
import { pickByScan, putBack, swapMark } from './pick-list.ts';
import { promise } from './promises.ts';
import { putOrder, setOrderClosed, setSerialsLater } from '../orders/write-order.ts';
import { putProduct } from '../catalogue/products.ts';
import { putSpec } from '../catalogue/specs.ts';
import { putWishes } from '../catalogue/wishes.ts';
import { deliveryNotePdf } from './papers/delivery-note.ts';
import { readDeliveryNote, weightsOf } from './read-delivery-note.ts';
import { pickListPdf } from './papers/pick-list.ts';
import { find } from '../frame/find.ts';
import { readLedgerEvents } from '../exchange/ledger-events.ts';
import { readOrder } from '../orders/read-orders.ts';
import { readPicksOf } from './picks.ts';
import { readBackorders, readSalesOf, readSerialsLater } from './sales.ts';
import { shipmentNoticeIds } from './shipment-notice.ts';
import { readUnitPage } from './units.ts';
import { validEpcis } from '../../core/exchange/testing/epcis-schema.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { book } from '../ledger/book.ts';
import { move } from '../stock/kinds.ts';
import { pack } from './kinds.ts';
import { Problem } from '../kernel/problem.ts';
import { quality } from '../quality/kinds.ts';
import { goodsReturn } from './kinds.ts';
import { ship } from './kinds.ts';

let world: World;
const TODAY = new Date().toISOString().slice(0, 10);
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

const order = (number: string, lines: { product: string; quantity: string }[]) =>
  putOrder(world.sql, world.actor, 'sales', number, {
    partner: 'CUS',
    due: TODAY,
    note: '',
    lines
  });
const packIt = async (document: string, request: object): Promise<string> => {
  const { units } = (await world.book(pack, {
    document,
    kind: 'pack',
    lines: [],
    units: [],
    ...request
  } as never)) as { units?: string[] };
  return units?.[0] ?? '';
};
const wrong = async (promised: Promise<unknown>) =>
  promised.then(
    () => {
      throw new Error('It was not refused.');
    },
    (error: Error) => {
      if (error instanceof Problem) return { status: error.status, ...error.errors[0]! };
      throw error;
    }
  );
const scan = (number: string, text: string, more: object = {}, key = newKey()) =>
  pickByScan(world.sql, world.actor, number, key, { scan: text, ...more }, TODAY);
const markId = async (number: string) =>
  (await world.sql<{ id: number }[]>`SELECT id FROM mark WHERE number = ${number}`)[0]!.id;

describe('a pick list', () => {
  beforeAll(async () => {
    await world.receive('LOT', [{ lot: 'PA', expires: daysLater(TODAY, 90) }], '10', 'RACK');
    await world.receive('LOT', [{ lot: 'PB', expires: daysLater(TODAY, 200) }], '10', 'LINE');
    await world.receive(
      'SER',
      ['K1', 'K2', 'K3', 'K4', 'K5'].map((serial) => ({ serial })),
      '5',
      'DOCK'
    );
    await order('SO-1', [
      { product: 'LOT', quantity: '12' },
      { product: 'SER', quantity: '3' }
    ]);
    await order('SO-OTHER', [{ product: 'SER', quantity: '1' }]);
    await promise(world.sql, world.actor, 'SO-OTHER', [{ line: 1, serial: 'K5' }], {
      until: null,
      day: TODAY
    });
  });
  it('names lot and place in walking order, and promises what it names', async () => {
    const { picks } = await makePickList(
      world.sql,
      world.actor,
      'SO-1',
      [
        { line: 1, lot: 'PA', quantity: '10' },
        { line: 1, lot: 'PB', quantity: '2' },
        { line: 2, serial: 'K1' },
        { line: 2, quantity: '2' }
      ],
      { until: null, day: TODAY }
    );
    expect(picks.map((pick) => [pick.place, pick.number, pick.quantity])).toEqual([
      ['DOCK', 'K1', '1'],
      ['LINE', 'PB', '2'],
      ['RACK', 'PA', '10'],
      [null, null, '1'],
      [null, null, '1']
    ]);
    expect(
      (
        await world.sql`SELECT count(*)::int AS n FROM reservation r JOIN trade_order o ON o.id = r.order_id WHERE o.number = 'SO-1'`
      )[0]!.n
    ).toBe(3);
    expect(
      (await pickListPdf((await readOrder(world.sql, 'sales', 'SO-1'))!, picks)).length
    ).toBeGreaterThan(2000);
  });
  it('refuses a wrong mark by scan, and says what to do', async () => {
    await world.receive('LOT', [{ lot: 'PZ' }], '5');
    expect(await wrong(scan('SO-1', 'PZ'))).toMatchObject({
      status: 422,
      code: 'mark.wrong-product',
      message: expect.stringContaining('PZ of LOT is not on the list, which says')
    });
    expect((await wrong(scan('SO-1', 'GHOST'))).message).toContain(
      'There is no lot or serial GHOST'
    );
    await world.receive('SIL', [{ lot: 'X', serial: 'FOREIGN' }]);
    expect((await wrong(scan('SO-1', 'FOREIGN'))).message).toBe(
      'FOREIGN of SIL is not on SO-1. Put it back.'
    );
  });
  it('moves the line’s place to where a serial lies, and says so', async () => {
    await world.book(move, {
      document: 'M',
      kind: 'move',
      lines: [{ product: 'SER', serial: 'K1', from: 'DOCK', to: 'RACK' }]
    });
    const answer = await scan('SO-1', 'k1');
    expect(answer).toMatchObject({
      moved: true,
      said: 'K1 of SER picked. It lies at RACK, not at DOCK: the list says RACK now.',
      pick: { place: 'RACK', picked: '1' }
    });
    expect(await scan('SO-1', 'K1')).toMatchObject({ already: true });
  });
  it('lets any free serial fill an open row, but none that is promised to another, naming whom', async () => {
    expect(await wrong(scan('SO-1', 'K5'))).toMatchObject({
      code: 'mark.reserved',
      message: expect.stringContaining('promised to SO-OTHER for Customer')
    });
    expect((await scan('SO-1', 'K2')).said).toBe('K2 of SER picked at DOCK.');
    expect(
      (await readPicksOf(world.sql, 'SO-1', TODAY)).filter((pick) => pick.number === null)
    ).toHaveLength(1);
  });
  it('picks a lot in parts, once per key, and never more than asked', async () => {
    const key = newKey();
    const [first, again] = [
      await scan('SO-1', 'PA', { quantity: '4' }, key),
      await scan('SO-1', 'PA', { quantity: '4' }, key)
    ];
    expect(again).toEqual(first);
    expect(await wrong(scan('SO-1', 'PB', {}, key))).toMatchObject({
      status: 409,
      code: 'key.used'
    });
    expect((await wrong(scan('SO-1', 'PA', { quantity: '7' }))).message).toContain(
      '6 each of PA of LOT are to be fetched here'
    );
    expect(await scan('SO-1', 'PA')).toMatchObject({ pick: { picked: '10' } });
  });
  it('refuses what is held meanwhile', async () => {
    await world.book(quality, {
      document: 'H',
      kind: 'hold',
      reason: 'look',
      marks: [{ product: 'LOT', lot: 'PB' }]
    });
    expect((await wrong(scan('SO-1', 'PB'))).message).toContain(
      'PB of LOT is held by quality. Leave it there'
    );
    await world.book(quality, {
      document: 'H',
      kind: 'release',
      reason: 'fine',
      marks: [{ product: 'LOT', lot: 'PB' }]
    });
  });
  it('swaps a serial for a free one until it is packed, keeps what is picked when made anew, and puts back', async () => {
    const { picks } = await swapMark(
      world.sql,
      world.actor,
      'SO-1',
      { from: 'K2', to: 'K3' },
      TODAY
    );
    expect(picks.filter((pick) => pick.number === 'K3')).toMatchObject([
      { picked: '0', place: 'DOCK' }
    ]);
    expect(
      await wrong(swapMark(world.sql, world.actor, 'SO-1', { from: 'K3', to: 'K5' }, TODAY))
    ).toMatchObject({
      code: 'mark.reserved'
    });
    expect(
      (await wrong(swapMark(world.sql, world.actor, 'SO-1', { from: 'K9', to: 'K4' }, TODAY)))
        .message
    ).toContain('K9 is not promised to SO-1');
    await scan('SO-1', 'K3');
    const remade = await makePickList(
      world.sql,
      world.actor,
      'SO-1',
      [
        { line: 1, lot: 'PA', quantity: '10' },
        { line: 1, lot: 'PB', quantity: '2' },
        { line: 2, serial: 'K1' },
        { line: 2, serial: 'K3' },
        { line: 2, quantity: '1' }
      ],
      { until: null, day: TODAY }
    );
    expect(
      remade.picks.map((pick) => `${pick.number} ${pick.picked}/${pick.quantity}`).sort()
    ).toEqual(['K1 1/1', 'K3 1/1', 'PA 10/10', 'PB 0/2', 'null 0/1']);
    const back = await putBack(
      world.sql,
      world.actor,
      'SO-1',
      remade.picks.find((pick) => pick.number === 'K3')!.id,
      TODAY
    );
    expect(back.picks.find((pick) => pick.number === 'K3')!.picked).toBe('0');
    await scan('SO-1', 'K3');
    await scan('SO-1', 'PB');
  });
  it('refuses lines it cannot fetch, a closed order, and people who may not', async () => {
    expect(
      await wrong(
        makePickList(world.sql, world.actor, 'SO-1', [{ line: 1, quantity: '3' }], {
          until: null,
          day: TODAY
        })
      )
    ).toMatchObject({ code: 'mark.missing', message: 'LOT is fetched by lot. Name which lot.' });
    expect(
      await wrong(
        makePickList(world.sql, world.actor, 'SO-1', [{ line: 8, lot: 'PA' }], {
          until: null,
          day: TODAY
        })
      )
    ).toMatchObject({ code: 'mark.unknown' });
    await order('SO-SHUT', [{ product: 'LOT', quantity: '1' }]);
    await setOrderClosed(world.sql, world.actor, 'sales', 'SO-SHUT', true);
    expect(
      await wrong(makePickList(world.sql, world.actor, 'SO-SHUT', [], { until: null, day: TODAY }))
    ).toMatchObject({ status: 409, code: 'order.closed' });
    expect(
      await wrong(
        pickByScan(
          world.sql,
          { ...world.actor, roles: ['auditor'] },
          'SO-1',
          newKey(),
          { scan: 'PA' },
          TODAY
        )
      )
    ).toMatchObject({ status: 403 });
  });
});

describe('packing and dispatch', () => {
  let carton: string, second: string, pallet: string, event: number;
  it('packs under SSCCs of our own prefix, each given once', async () => {
    carton = await packIt('SO-1', {
      lines: [
        { product: 'LOT', lot: 'PA', quantity: '10' },
        { product: 'SER', serial: 'K1' }
      ]
    });
    second = await packIt('SO-1', {
      lines: [
        { product: 'LOT', lot: 'PB', quantity: '2' },
        { product: 'SER', serial: 'K3' }
      ]
    });
    expect(carton).toMatch(/^\d9520001\d{10}$/);
    expect(second).not.toBe(carton);
    expect(await readUnitPage(world.sql, `(00)${carton}`)).toMatchObject({
      kind: 'carton',
      order: 'SO-1',
      shipped: null,
      contents: [{ number: 'PA', quantity: '10' }, { number: 'K1' }]
    });
    expect(await find(world.sql, carton, { today: TODAY })).toMatchObject([
      { type: 'carton', exact: true }
    ]);
    expect(
      (await readPicksOf(world.sql, 'SO-1', TODAY)).find((pick) => pick.number === 'PA')!.packed
    ).toBe('10');
  });
  it('two who pack the same serial at once: one does', async () => {
    await order('SO-RACE', [{ product: 'SER', quantity: '2' }]);
    const tries = await Promise.allSettled(
      Array.from({ length: 8 }, () =>
        packIt('SO-RACE', { lines: [{ product: 'SER', serial: 'K4' }] })
      )
    );
    expect(tries.filter((one) => one.status === 'fulfilled')).toHaveLength(1);
    expect(
      tries.flatMap((one) =>
        one.status === 'rejected' ? [(one.reason as Problem).errors[0]!.code] : []
      )
    ).toEqual(Array(7).fill('mark.duplicate'));
  });
  it('the database itself refuses a serial in two cartons, a carton on two pallets, more taken out than is in, and a pallet leaving without its carton', async () => {
    pallet = await packIt('SO-1', { make: 'pallet', units: [carton, second] });
    const ids = Object.fromEntries(
      (await world.sql<{ sscc: string; id: number }[]>`SELECT sscc, id FROM logistic_unit`).map(
        (row) => [row.sscc, row.id]
      )
    );
    const k1 = await markId('K1');
    const [made] = await world.sql<
      { id: number }[]
    >`INSERT INTO event (kind, document, happened_at, booked_by) VALUES ('pack', 'ATTACK', now(), ${world.actor.personId}) RETURNING id`;
    await expect(
      world.sql`INSERT INTO packing (event_id, unit_id, mark_id, quantity) VALUES (${made!.id}, ${ids[second]!}, ${k1}, 1)`
    ).rejects.toMatchObject({ constraint_name: 'unit_content_serial_once' });
    await expect(
      world.sql`INSERT INTO packing (event_id, unit_id, mark_id, quantity) VALUES (${made!.id}, ${ids[carton]!}, ${await markId('PA')}, -11)`
    ).rejects.toMatchObject({ constraint_name: 'content_never_negative' });
    await expect(
      world.sql`INSERT INTO packing (event_id, unit_id, child_id, quantity) VALUES (${made!.id}, ${ids[carton]!}, ${ids[second]!}, 1)`
    ).rejects.toMatchObject({ constraint_name: 'cartons_on_pallets' });
    const other = await packIt('SO-1', { make: 'pallet' });
    const [otherId] = await world.sql<
      { id: number }[]
    >`SELECT id FROM logistic_unit WHERE sscc = ${other}`;
    await expect(
      world.sql`INSERT INTO packing (event_id, unit_id, child_id, quantity) VALUES (${made!.id}, ${otherId!.id}, ${ids[carton]!}, 1)`
    ).rejects.toMatchObject({ constraint_name: 'unit_on_pallet_pkey' });
    for (const alone of [ids[carton]!, ids[pallet]!])
      await expect(
        world.sql`INSERT INTO unit_shipped (unit_id, event_id) VALUES (${alone}, ${made!.id})`
      ).rejects.toMatchObject({ constraint_name: 'units_leave_whole' });
    await expect(world.sql`UPDATE packing SET quantity = 2`).rejects.toThrow('permission denied');
    await expect(world.owner`DELETE FROM packing`).rejects.toThrow('append-only');
  });
  it('ships a pallet whole: cartons, goods and the order’s progress', async () => {
    expect(
      await world.refused(ship, { document: 'SO-1', customer: 'CUS', lines: [], units: [carton] })
    ).toMatchObject([
      { code: 'balance.open', message: expect.stringContaining(`stands on pallet ${pallet}`) }
    ]);
    const booked = await world.book(ship, {
      document: 'SO-1',
      customer: 'CUS',
      reference: 'CMR 7',
      lines: [],
      units: [pallet]
    });
    event = booked.event.id;
    expect(
      (await readOrder(world.sql, 'sales', 'SO-1'))!.lines.map(
        (line) => `${line.done}/${line.quantity}`
      )
    ).toEqual(['12/12', '2/3']);
    expect(await readUnitPage(world.sql, carton)).toMatchObject({
      shipped: { event, document: 'SO-1' }
    });
    expect((await readPicksOf(world.sql, 'SO-1', TODAY)).map((pick) => pick.number)).toEqual([
      null
    ]);
    expect(
      (
        await world.sql`SELECT FROM reservation r JOIN trade_order o ON o.id = r.order_id WHERE o.number = 'SO-1'`
      ).length
    ).toBe(0);
    expect(
      await world.refused(ship, { document: 'SO-1', customer: 'CUS', lines: [], units: [pallet] })
    ).toMatchObject([{ message: expect.stringContaining('has left already, with SO-1') }]);
    expect(
      await world.refused(pack, {
        document: 'SO-1',
        kind: 'unpack',
        unit: carton,
        lines: [{ product: 'LOT', lot: 'PA' }],
        units: []
      })
    ).toMatchObject([{ code: 'balance.open' }]);
  });
  it('has a delivery note with every carton, lot, serial and weight', async () => {
    await putProduct(world.sql, 'LOT', {
      name: 'lot',
      unit: 'each',
      decimals: 3,
      made: false,
      marking: 'lot',
      netWeightKg: '0.25',
      grossWeightKg: '0.3',
      lengthCm: '30',
      widthCm: '20',
      heightCm: '10'
    } as never);
    const note = (await readDeliveryNote(world.sql, event))!;
    expect(note.rows.map((row) => [row.number, row.quantity, row.sscc, row.pallet])).toEqual([
      ['PA', '10', carton, pallet],
      ['K1', '1', carton, pallet],
      ['PB', '2', second, pallet],
      ['K3', '1', second, pallet]
    ]);
    // Common practice of carriers: 30 × 20 × 10 cm ÷ 3000 = 2 kg a piece by road, 1 kg by air.
    const lots = note.rows.filter((row) => row.product === 'LOT');
    expect([
      weightsOf(lots, 'road'),
      weightsOf(lots, 'air').volumetric,
      weightsOf(note.rows, 'road').net
    ]).toEqual([{ net: '3', gross: '3.6', volumetric: '24' }, '12', null]);
    expect(Buffer.from((await deliveryNotePdf(note)).subarray(0, 5)).toString()).toBe('%PDF-');
    expect(await readDeliveryNote(world.sql, 1)).toBeNull();
  });
  it('has a shipment notice that is valid by the standard’s own schema: cartons packed, pallet packed, shipped', async () => {
    const { events, marks } = await readLedgerEvents(
      world.sql,
      await shipmentNoticeIds(world.sql, event)
    );
    const written = events.flatMap((one) => toEpcis(one, marks, 'https://id.example'));
    expect(validEpcis(epcisDocument(written, new Date().toISOString()))).toEqual([]);
    const shipping = written.filter((one) => one.bizStep === 'shipping');
    expect(written.slice(0, 3).map((one) => [one.type, one.bizStep])).toEqual([
      ['AggregationEvent', 'packing'],
      ['AggregationEvent', 'packing'],
      ['AggregationEvent', 'packing']
    ]);
    expect(written[2]).toMatchObject({
      parentID: ssccUri(pallet),
      childEPCs: [ssccUri(carton), ssccUri(second)]
    });
    // Each place the goods left tells what left there; together it is all of it.
    const points = shipping.map((one) => (one.readPoint as { id: string }).id);
    expect(new Set(points).size).toBe(shipping.length);
    const left = shipping.flatMap((one) => (one.epcList as string[] | undefined) ?? []);
    expect(left.sort()).toEqual([...new Set(left)]);
    expect(left).toEqual(
      expect.arrayContaining([
        ssccUri(pallet),
        ssccUri(carton),
        ssccUri(second),
        'https://id.example/product/SER/serial/K1'
      ])
    );
    const lots = shipping.flatMap((one) => (one.quantityList as object[] | undefined) ?? []);
    expect(lots).toContainEqual({
      epcClass: 'https://id.example/product/LOT/lot/PA',
      quantity: 10
    });
  });
});

describe('one date in a carton, as the customer wishes', () => {
  it('is obeyed while packing, with a reason to go on', async () => {
    await world.receive(
      'LOT',
      [
        { lot: 'D1', expires: '2030-01-31' },
        { lot: 'D2', expires: '2030-02-28' }
      ].map((one) => ({ ...one, quantity: '5' })),
      '10'
    );
    await putWishes(world.sql, 'CUS', [
      {
        product: 'LOT',
        leastDays: null,
        leastShare: null,
        oneLot: false,
        oneDate: true,
        tested: false
      }
    ]);
    await order('SO-D', [{ product: 'LOT', quantity: '10' }]);
    const box = await packIt('SO-D', { lines: [{ product: 'LOT', lot: 'D1', quantity: '5' }] });
    expect(
      await world.refused(pack, {
        document: 'SO-D',
        kind: 'pack',
        unit: box,
        lines: [{ product: 'LOT', lot: 'D2', quantity: '1' }],
        units: []
      })
    ).toMatchObject([{ code: 'wish.unmet', answer: 'reason' }]);
    await world.book(pack, {
      document: 'SO-D',
      kind: 'unpack',
      unit: box,
      lines: [{ product: 'LOT', lot: 'D1' }],
      units: []
    });
    await world.book(pack, {
      document: 'SO-D',
      kind: 'pack',
      unit: box,
      lines: [{ product: 'LOT', lot: 'D2', quantity: '1' }],
      units: []
    });
    await putWishes(world.sql, 'CUS', []);
  });
});

describe('a promise', () => {
  it('is not made of what does not meet the customer’s spec', async () => {
    const [mark] = await world.sql<{ id: number }[]>`SELECT id FROM mark WHERE number = 'D1'`;
    await putSpec(world.sql, world.actor, 'LOT', 'CUS', {
      limits: [
        {
          name: 'strength',
          kind: 'number',
          unit: 'N',
          least: '100',
          most: null,
          good: [],
          choices: [],
          required: true
        }
      ],
      holdOnFail: false,
      retestDays: null,
      sampling: ''
    } as never);
    const [test] = await world.sql<
      { id: number }[]
    >`INSERT INTO quality_test (mark_id, taken_at, results, tested_by, key) VALUES (${mark!.id}, now(), '[{"name":"strength","value":"80","unit":"N"}]', ${world.actor.personId}, 'k') RETURNING id`;
    const [signer] = await world.sql<
      { id: number }[]
    >`INSERT INTO person (login, name) VALUES ('signer', 'Signer') RETURNING id`;
    await world.sql`INSERT INTO test_signature (test_id, signed_by) VALUES (${test!.id}, ${signer!.id})`;
    expect(
      await wrong(
        promise(world.sql, world.actor, 'SO-D', [{ line: 1, lot: 'D1', quantity: '1' }], {
          until: null,
          day: TODAY
        })
      )
    ).toMatchObject({
      code: 'mark.off-spec',
      message: expect.stringContaining('strength 80 N is below 100')
    });
  });
});

describe('what was sold', () => {
  it('is known by its serial: to whom, on what, when, and until when the warranty runs, from dispatch', async () => {
    await putProduct(world.sql, 'SER', {
      name: 'ser',
      unit: 'each',
      decimals: 0,
      made: false,
      marking: 'serial',
      warrantyMonths: 24
    } as never);
    await world.receive('SER', [{ serial: 'W1' }]);
    // The same day of the month, or the month's last: 29 February 2028 has none in 2030 (ISO 8601
    // calendar).
    await world.book(ship, {
      document: 'SO-W',
      customer: 'CUS',
      at: '2024-02-29T12:00:00Z',
      reasons: { 'time.order': 'the receipt is of this day' },
      lines: [{ product: 'SER', marks: [{ serial: 'W1' }] }]
    });
    const [sale] = await readSalesOf(world.sql, await markId('W1'));
    expect(sale).toMatchObject({
      partnerCode: 'CUS',
      document: 'SO-W',
      shipped: '1',
      quantity: '1',
      warrantyUntil: '2026-02-28'
    });
    expect(monthsLater('2024-08-31', 6)).toBe('2025-02-28');
  });
  it('comes back by scan, is held, and cannot come back twice, even at once', async () => {
    const request = {
      document: 'RT-1',
      place: 'DOCK',
      reason: 'leaks',
      lines: [{ product: 'SER', serial: 'W1' }]
    };
    const tries = await Promise.allSettled(
      Array.from({ length: 6 }, (_, n) =>
        book(world.sql, goodsReturn, world.actor, newKey(), { ...request, document: `RT-${n}` })
      )
    );
    expect(tries.filter((one) => one.status === 'fulfilled')).toHaveLength(1);
    expect((await world.sql`SELECT state FROM mark WHERE number = 'W1'`)[0]!.state).toBe('held');
    expect((await readSalesOf(world.sql, await markId('W1')))[0]).toMatchObject({
      shipped: '1',
      quantity: '0'
    });
    expect((await world.refused(goodsReturn, request))[0]!.message).toContain('is back already');
    await expect(
      world.sql`INSERT INTO returned (event_id, mark_id, shipment_id, quantity) SELECT event_id, mark_id, shipment_id - 1, 1 FROM returned LIMIT 1`
    ).rejects.toMatchObject({ constraint_name: 'returns_what_left' });
  });
  it('may be sold again once released', async () => {
    expect(
      (
        await world.refused(ship, {
          document: 'SO-W2',
          customer: 'CUS',
          lines: [{ product: 'SER', marks: [{ serial: 'W1' }] }]
        })
      )[0]!.code
    ).toBe('mark.held');
    await world.book(quality, {
      document: 'Q',
      kind: 'release',
      reason: 'repaired',
      marks: [{ product: 'SER', serial: 'W1' }]
    });
    await world.book(ship, {
      document: 'SO-W2',
      customer: 'CUS',
      lines: [{ product: 'SER', marks: [{ serial: 'W1' }] }]
    });
    expect((await readSalesOf(world.sql, await markId('W1'))).map((sale) => sale.quantity)).toEqual(
      ['1', '0']
    );
  });
  it('leaves what is owed in sight, with what is free', async () => {
    const { rows: owed } = await readBackorders(world.sql, TODAY);
    expect(owed.find((row) => row.order === 'SO-1')).toMatchObject({
      product: 'SER',
      ordered: '3',
      shipped: '2',
      left: '1',
      free: expect.stringMatching(/^\d+$/)
    });
  });
  it('lists orders whose serials are named later, until they are', async () => {
    await setSerialsLater(world.sql, world.actor, 'SO-RACE', true);
    expect(await readSerialsLater(world.sql)).toMatchObject([
      { order: 'SO-RACE', product: 'SER', missing: '2' }
    ]);
    await setSerialsLater(world.sql, world.actor, 'SO-RACE', false);
    expect(await readSerialsLater(world.sql)).toEqual([]);
  });
});
