import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { putOrder, setOrderClosed } from '../orders/write-order.ts';
import { connect } from '../kernel/db/client.ts';
import { reconcile } from './reconcile.ts';
import { readOrder } from '../orders/read-orders.ts';
import {
  makeWorld,
  newKey,
  onHandByMovements,
  onHandByStock,
  type World
} from '../testing/world.ts';
import { book } from './book.ts';
import { build } from '../making/kinds.ts';
import { correct } from '../stock/kinds.ts';
import { quality } from '../quality/kinds.ts';
import { receive } from '../receiving/kinds.ts';
import { ship } from '../shipping/kinds.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());
const codes = (faults: readonly { code: string; path: string }[]) =>
  faults.map((fault) => `${fault.code} ${fault.path}`);

describe('the way of the goods', () => {
  it('a lot and serials are received, built into a unit with its own components, and shipped', async () => {
    await world.receive('KG', [{ lot: 'GLUE-1' }], '2.5');
    await world.receive('SIL', [
      { lot: 'CYL-1', serial: 'C1' },
      { lot: 'CYL-1', serial: 'C2' }
    ]);
    await world.receive('BULK', [], '20');
    const built = await world.build([
      {
        outputs: [{ product: 'MADE', serial: 'M1', quantity: '1' }],
        inputs: [
          { product: 'SIL', serial: 'C1', quantity: '1' },
          { product: 'KG', lot: 'glue-1', quantity: '0.25' },
          { product: 'BULK', quantity: '4' }
        ]
      },
      {
        outputs: [{ product: 'MADE', serial: 'M2', quantity: '1' }],
        inputs: [
          { product: 'SIL', serial: 'C2', quantity: '1' },
          { product: 'KG', lot: 'GLUE-1', quantity: '0.25' },
          { product: 'BULK', quantity: '4' }
        ]
      }
    ]);
    expect(built.marks.map((mark) => [mark.number, mark.onHand])).toEqual([
      ['M1', '1'],
      ['M2', '1']
    ]);
    const shipped = await world.ship([
      { product: 'MADE', place: 'LINE', marks: [{ serial: 'm1' }] }
    ]);
    expect(shipped.marks[0]).toMatchObject({ number: 'M1', onHand: '0' });
    const components = await world.sql`
      SELECT c.number FROM transformation_output o JOIN mark m ON m.id = o.mark_id JOIN transformation_input i USING (transformation_id) JOIN mark c ON c.id = i.mark_id WHERE m.number = 'M1' ORDER BY c.number NULLS LAST`;
    expect(components.map((row) => row.number)).toEqual(['C1', 'GLUE-1', null]);
  });

  it('50 serials and 2 lots make 52 movements (practice)', async () => {
    const booked = await world.book(receive, {
      document: 'R-52',
      supplier: 'SUP',
      lines: [
        {
          product: 'SER',
          place: 'DOCK',
          quantity: '50',
          marks: Array.from({ length: 50 }, (_, i) => ({ serial: `FIFTY-${i}` }))
        },
        {
          product: 'LOT',
          place: 'DOCK',
          quantity: '8',
          marks: [
            { lot: 'TWO-A', quantity: '5' },
            { lot: 'TWO-B', quantity: '3' }
          ]
        }
      ]
    });
    expect(
      (
        await world.sql<
          { n: number }[]
        >`SELECT count(*) AS n FROM movement WHERE event_id = ${booked.event.id}`
      )[0]!.n
    ).toBe(52);
  });

  it('a lot received again is added to; its expiry must be the same', async () => {
    const line = (quantity: string, expires: string) => ({
      document: 'R-AGAIN',
      supplier: 'SUP',
      lines: [{ product: 'LOT', place: 'DOCK', quantity, marks: [{ lot: 'AGAIN', expires }] }]
    });
    await world.book(receive, line('5', '2030-01-01'));
    expect((await world.book(receive, line('2.5', '2030-01-01'))).marks[0]!.onHand).toBe('7.5');
    expect(codes(await world.refused(receive, line('1', '2031-01-01')))).toEqual([
      'mark.duplicate lines[0].marks[0]'
    ]);
  });

  it('rework takes in the very unit it makes', async () => {
    await world.receive('SER', [{ serial: 'NEWPART' }]);
    await world.build([
      { outputs: [{ product: 'MADE', serial: 'RW-1', quantity: '1' }], inputs: [] }
    ]);
    const again = await world.build([
      {
        outputs: [{ product: 'MADE', serial: 'RW-1', quantity: '1' }],
        inputs: [
          { product: 'MADE', serial: 'RW-1', quantity: '1' },
          { product: 'SER', serial: 'NEWPART', quantity: '1' }
        ]
      }
    ]);
    expect(again.marks[0]!.onHand).toBe('1');
  });

  it('one booking may use further down what it made further up', async () => {
    await world.receive('LOT', [{ lot: 'RAW' }], '4');
    const booked = await world.build([
      {
        outputs: [{ product: 'MADELOT', lot: 'MID', quantity: '2' }],
        inputs: [{ product: 'LOT', lot: 'RAW', quantity: '4' }]
      },
      {
        outputs: [{ product: 'MADE', serial: 'TOP', quantity: '1' }],
        inputs: [{ product: 'MADELOT', lot: 'MID', quantity: '2' }]
      }
    ]);
    expect(booked.marks.map((mark) => mark.onHand)).toEqual(['0', '1']);
  });

  it('a component without a place is taken where it lies, the build’s own place first', async () => {
    await world.receive('LOT', [{ lot: 'SPREAD' }], '3', 'RACK');
    await world.receive('LOT', [{ lot: 'SPREAD' }], '2', 'LINE');
    await world.build([
      {
        outputs: [{ product: 'MADELOT', lot: 'SPREAD-OUT', quantity: '1' }],
        inputs: [{ product: 'LOT', lot: 'SPREAD', quantity: '4' }]
      }
    ]);
    const rows =
      await world.sql`SELECT c.code, s.quantity FROM stock s JOIN mark m ON m.id = s.mark_id JOIN place c ON c.id = s.place_id WHERE m.number = 'SPREAD' ORDER BY c.code`;
    expect(rows.map((row) => [row.code, Number(row.quantity)])).toEqual([
      ['LINE', 0],
      ['RACK', 1]
    ]);
  });
});

describe('faults', () => {
  it('are all told at once, with line, number and what mends them', async () => {
    await world.receive('SER', [{ serial: 'HERE' }]);
    const faults = await world.refused(receive, {
      document: 'R-BAD',
      supplier: 'NOBODY',
      lines: [
        {
          product: 'SER',
          place: 'DOCK',
          quantity: '4',
          marks: [{ serial: 'here' }, { serial: 'DUP' }, { serial: 'dup ' }, { serial: '' }]
        },
        { product: 'GHOST', place: 'DOCK', quantity: '1', marks: [{ lot: 'X' }] },
        {
          product: 'LOT',
          place: 'NOWHERE',
          quantity: '3',
          marks: [
            { lot: 'LA', quantity: '1' },
            { lot: 'LB', quantity: '1' }
          ]
        },
        { product: 'SIL', place: 'DOCK', quantity: '0.5', marks: [{ serial: 'Q' }] },
        { product: 'LOT', place: 'DOCK', quantity: '1', marks: [{ lot: 'Z'.repeat(500) }] },
        { product: 'LOT', place: 'DOCK', quantity: '1', marks: [{ lot: 'Z\u0007' }] },
        {
          product: 'LOT',
          place: 'DOCK',
          quantity: '1',
          marks: [{ lot: 'D1', expires: '2027-02-30' }]
        }
      ]
    });
    expect(codes(faults)).toEqual([
      'partner.unknown supplier',
      'mark.duplicate lines[0].marks[0]',
      'mark.duplicate lines[0].marks[2]',
      'mark.missing lines[0].marks[3]',
      'product.unknown lines[1].product',
      'place.unknown lines[2].place',
      'quantity.mismatch lines[2].quantity',
      'mark.missing lines[3].marks[0]',
      'quantity.not-whole lines[3].quantity',
      'number.malformed lines[4].marks[0]',
      'number.malformed lines[5].marks[0]',
      'date.missing lines[6].marks[0]'
    ]);
    expect(faults[1]!.message).toMatch(
      /^Serial HERE is already on hand at S1, dock, since \d+ \w+ \d{4}\. Remove it here or give another number\.$/
    );
    for (const fault of faults) expect(fault.message.length).toBeLessThan(260);
  });

  it('a refused booking changes nothing', async () => {
    const count = async () =>
      (
        await world.sql<
          { n: number }[]
        >`SELECT (SELECT count(*) FROM event) + (SELECT count(*) FROM mark) + (SELECT count(*) FROM movement) AS n`
      )[0]!.n;
    const before = await count();
    await world.refused(receive, {
      document: 'R',
      supplier: 'SUP',
      lines: [
        { product: 'LOT', place: 'DOCK', quantity: '1', marks: [{ lot: 'WOULD-BE' }] },
        { product: 'LOT', place: 'DOCK', quantity: '-1', marks: [{ lot: 'X' }] }
      ]
    });
    expect(await count()).toBe(before);
  });

  it('a serial that was ever used is not received again', async () => {
    await world.receive('SER', [{ serial: 'GONE' }]);
    await world.ship([{ product: 'SER', place: 'DOCK', marks: [{ serial: 'GONE' }] }]);
    const [fault] = await world.refused(receive, {
      document: 'R',
      supplier: 'SUP',
      lines: [{ product: 'SER', place: 'DOCK', quantity: '1', marks: [{ serial: 'GONE' }] }]
    });
    expect(fault).toMatchObject({
      code: 'mark.duplicate',
      message: expect.stringContaining('never used twice')
    });
  });

  it('of a build: short, used twice, wrong product, unknown, another lot, elsewhere', async () => {
    await world.receive('LOT', [{ lot: 'FEW' }], '3');
    await world.receive('SER', [{ serial: 'ONCE' }]);
    await world.receive('SIL', [
      { lot: 'LX', serial: 'INX' },
      { lot: 'LY', serial: 'INY' }
    ]);
    const faults = await world.refused(build, {
      document: 'B',
      place: 'LINE',
      groups: [
        {
          outputs: [{ product: 'MADE', serial: 'F1' }],
          inputs: [
            { product: 'SER', serial: 'ONCE' },
            { product: 'LOT', lot: 'FEW', quantity: '2' }
          ]
        },
        {
          outputs: [{ product: 'MADE', serial: 'F2' }],
          inputs: [
            { product: 'SER', serial: 'once' },
            { product: 'LOT', lot: 'FEW', quantity: '2' }
          ]
        },
        {
          outputs: [{ product: 'MADE', serial: 'f1' }],
          inputs: [
            { product: 'LOT', lot: 'ONCE', quantity: '1' },
            { product: 'SER', serial: 'NEVER' },
            { product: 'SIL', lot: 'LX', serial: 'INY' },
            { product: 'LOT', lot: 'FEW', quantity: '1', place: 'RACK' },
            { product: 'SER', serial: 'HALF', quantity: '0.5' }
          ]
        }
      ]
    });
    expect(codes(faults)).toEqual([
      'mark.duplicate groups[1].inputs[0]',
      'stock.short groups[1].inputs[1]',
      'mark.wrong-product groups[2].inputs[0]',
      'mark.unknown groups[2].inputs[1]',
      'mark.unknown groups[2].inputs[2]',
      'stock.short groups[2].inputs[3]',
      'quantity.not-whole groups[2].inputs[4]',
      'mark.unknown groups[2].inputs[4]',
      'mark.duplicate groups[2].outputs[0]'
    ]);
    expect(faults[2]!.message).toBe('ONCE is a serial of SER ser, not of LOT lot. Take a LOT.');
    expect(faults[5]!.message).toContain('in all: DOCK 1');
  });

  it('held, rejected and expired goods are not shipped, a serial of a held lot neither', async () => {
    await world.book(receive, {
      document: 'R',
      supplier: 'SUP',
      at: '2024-01-10T10:00:00Z',
      lines: [
        {
          product: 'LOT',
          place: 'DOCK',
          quantity: '5',
          marks: [{ lot: 'OLD', expires: '2024-06-01' }]
        }
      ]
    });
    await world.receive('LOT', [{ lot: 'HOLD' }], '5');
    await world.receive('SIL', [{ lot: 'HLOT', serial: 'HS' }]);
    const decide = (
      kind: 'hold' | 'release' | 'reject',
      marks: { product: string; lot?: string }[]
    ) => world.book(quality, { document: 'Q', kind, reason: 'looked wrong', marks });
    await decide('hold', [
      { product: 'LOT', lot: 'HOLD' },
      { product: 'SIL', lot: 'HLOT' }
    ]);
    const shipment = (
      product: string,
      mark: { lot?: string; serial?: string; quantity?: string }
    ) => ({ document: 'S', customer: 'CUS', lines: [{ product, place: 'DOCK', marks: [mark] }] });
    expect(
      (await world.refused(ship, shipment('LOT', { lot: 'HOLD', quantity: '1' })))[0]!.code
    ).toBe('mark.held');
    expect((await world.refused(ship, shipment('SIL', { serial: 'HS' })))[0]).toMatchObject({
      code: 'mark.held',
      message: expect.stringContaining('within lot HLOT')
    });
    expect(
      (await world.refused(ship, shipment('LOT', { lot: 'OLD', quantity: '1' })))[0]!.code
    ).toBe('mark.expired');
    await decide('reject', [{ product: 'LOT', lot: 'HOLD' }]);
    expect(
      (await world.refused(ship, shipment('LOT', { lot: 'HOLD', quantity: '1' })))[0]!.code
    ).toBe('mark.rejected');
    expect(
      (
        await world.refused(quality, {
          document: 'Q',
          kind: 'release',
          reason: 'x',
          marks: [{ product: 'LOT', lot: 'HOLD' }]
        })
      )[0]!.code
    ).toBe('mark.rejected');
    // What is expired can still be scrapped.
    await world.book(correct, {
      document: 'SC',
      kind: 'scrap',
      reason: 'expired',
      lines: [{ product: 'LOT', lot: 'OLD', place: 'DOCK', quantity: '5' }]
    });
  });
});

describe('orders', () => {
  it('take receipts up to what was ordered, from that supplier, of those products, until closed', async () => {
    await putOrder(world.sql, world.actor, 'purchase', 'PO-1', {
      partner: 'SUP',
      due: '2026-12-01',
      note: '',
      lines: [
        { product: 'LOT', quantity: '10' },
        { product: 'LOT', quantity: '5' }
      ]
    });
    const receipt = (product: string, quantity: string) => ({
      document: 'po-1',
      supplier: 'SUP',
      lines: [
        {
          product,
          place: 'DOCK',
          quantity,
          marks: [product === 'LOT' ? { lot: 'PO-LOT' } : { serial: 'POS' }]
        }
      ]
    });
    await world.book(receive, receipt('LOT', '12'));
    expect(
      (await readOrder(world.sql, 'purchase', 'PO-1'))!.lines.map((line) => [line.done, line.left])
    ).toEqual([
      ['10', '0'],
      ['2', '3']
    ]);
    expect(codes(await world.refused(receive, receipt('LOT', '4')))).toEqual([
      'quantity.mismatch lines[0].quantity'
    ]);
    expect(codes(await world.refused(receive, receipt('SER', '1')))).toEqual([
      'mark.wrong-product lines[0].quantity'
    ]);
    await setOrderClosed(world.sql, world.actor, 'purchase', 'PO-1', true);
    expect(codes(await world.refused(receive, receipt('LOT', '1')))).toEqual([
      'order.closed document'
    ]);
    await setOrderClosed(world.sql, world.actor, 'purchase', 'PO-1', false);
    await world.book(receive, receipt('LOT', '3'));
    expect((await readOrder(world.sql, 'purchase', 'PO-1'))!.state).toBe('complete');
  });
});

describe('sending twice (law 5)', () => {
  it('books once and answers the same, and the key serves no other booking', async () => {
    const request = {
      document: 'R-TWICE',
      supplier: 'SUP',
      lines: [{ product: 'LOT', place: 'DOCK', quantity: '3', marks: [{ lot: 'TWICE' }] }]
    };
    const key = newKey();
    const first = await book(world.sql, receive, world.actor, key, request);
    await world.receive('LOT', [{ lot: 'TWICE' }], '1');
    const second = await book(world.sql, receive, world.actor, key, request);
    expect(first.fresh).toBe(true);
    expect(second).toEqual({ answer: first.answer, fresh: false });
    await expect(
      book(world.sql, receive, world.actor, key, { ...request, document: 'OTHER' })
    ).rejects.toMatchObject({ status: 409 });
  });

  it('a refused booking leaves its key free for the mended one', async () => {
    const key = newKey();
    const request = (quantity: string) => ({
      document: 'R',
      supplier: 'SUP',
      lines: [{ product: 'LOT', place: 'DOCK', quantity, marks: [{ lot: 'MENDED' }] }]
    });
    await expect(book(world.sql, receive, world.actor, key, request('0'))).rejects.toMatchObject({
      status: 422
    });
    expect((await book(world.sql, receive, world.actor, key, request('1'))).fresh).toBe(true);
  });
});

it('costs the same number of statements for one serial and for a thousand', async () => {
  const statements = async (count: number): Promise<number> => {
    let n = 0;
    const url = world.sql.options.host[0];
    const counting = connect(
      `postgres://${world.sql.options.user}:${encodeURIComponent(String(world.sql.options.pass))}@${url}:${world.sql.options.port[0]}/${world.sql.options.database}`,
      { max: 1, role: 'earmark_app', debug: () => n++ }
    );
    await counting`SELECT 1`;
    n = 0;
    await book(counting, receive, world.actor, newKey(), {
      document: 'R',
      supplier: 'SUP',
      lines: [
        {
          product: 'SIL',
          place: 'DOCK',
          quantity: String(count),
          marks: Array.from({ length: count }, (_, i) => ({
            lot: `N${count}`,
            serial: `N${count}-${i}`
          }))
        }
      ]
    });
    await counting.end();
    return n;
  };
  expect(await statements(1000)).toBe(await statements(1));
});

it('after all of it stock equals an independent sum of movements, and reconcile finds nothing', async () => {
  expect(await onHandByStock(world.sql)).toEqual(await onHandByMovements(world.sql));
  expect((await reconcile(world.sql)).breaks).toEqual([]);
});

it('reconcile finds stock that was tampered with', async () => {
  await world.owner`UPDATE stock SET quantity = quantity + 1 WHERE mark_id = (SELECT id FROM mark WHERE number = 'TWICE')`;
  expect((await reconcile(world.sql)).breaks).toMatchObject([
    { law: 'law 3: stock is the sum of movements', what: 'lot TWICE of LOT at DOCK' },
    { law: 'every product balances', what: expect.stringMatching(/^LOT: /) }
  ]);
});
