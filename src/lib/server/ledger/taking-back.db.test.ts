import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { putProduct } from '../catalogue/products.ts';
import { putPerson } from '../people/write-people.ts';
import { goodsReturn, pack } from '../shipping/kinds.ts';
import { repack, teardown } from '../making/kinds.ts';
import { amend, correct, giveNumbers, move } from '../stock/kinds.ts';
import { quality } from '../quality/kinds.ts';
import { receive } from '../receiving/kinds.ts';
import { makeWorld, newKey, onHandByMovements, type World } from '../testing/world.ts';
import { book, type BookedAnswer, type Circumstances } from './book.ts';
import { reverse } from './kinds.ts';
import { reconcile } from './reconcile.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

const back = (event: number | BookedAnswer, units?: { product: string; serial?: string }[]) =>
  world.book(reverse, request(event, units));
const refused = (event: number | BookedAnswer, units?: { product: string; serial?: string }[]) =>
  world.refused(reverse, request(event, units));
const request = (event: number | BookedAnswer, units?: object[]) =>
  ({
    document: 'BACK',
    event: typeof event === 'number' ? event : event.event.id,
    reason: 'booked by mistake',
    ...(units ? { units } : {})
  }) as never as Circumstances & { event: number; reason: string };

/** All that can be seen of the goods: where they lie, what they are, who has them, what is packed. */
async function everything(): Promise<unknown> {
  const [marks, sold, packed, out] = await Promise.all([
    world.sql`
      SELECT id, number, state, expires_on, made_on, retest_on, supplier_number, facts::text
      FROM mark m
      WHERE EXISTS (SELECT FROM stock s WHERE s.mark_id = m.id AND s.quantity > 0)
        OR EXISTS (SELECT FROM sold s WHERE s.mark_id = m.id AND s.quantity > 0)
      ORDER BY id
    `,
    world.sql`SELECT mark_id, quantity FROM sold WHERE quantity > 0 ORDER BY 1, event_id`,
    world.sql`
      SELECT unit_id, mark_id, quantity, shipped
      FROM unit_content
      WHERE quantity > 0
      ORDER BY 1, 2
    `,
    world.sql`SELECT unit_id FROM unit_out ORDER BY 1`
  ]);
  const onHand = await onHandByMovements(world.sql);
  return JSON.parse(JSON.stringify({ onHand, marks, sold, packed, out }));
}

describe('taking anything back', () => {
  /** One booking of every kind, each on what those before left; and the sight before each. */
  const acts: [string, () => Promise<BookedAnswer>][] = [
    ['receive', () => world.receive('LOT', [{ lot: 'T1', supplierNumber: 'X' }], '30')],
    ['receive serials', () => world.receive('SER', [{ serial: 'T-1' }, { serial: 'T-2' }])],
    ['receive loose', () => world.receive('BULK', [], '10')],
    ['put away', () => carry('put away', 'DOCK', 'RACK')],
    ['move', () => carry('move', 'RACK', 'LINE')],
    ['amendment', () => rename('T1', 'T1a')],
    ['hold', () => decide('hold')],
    ['release', () => decide('release')],
    ['gain', () => put('gain', { product: 'LOT', lot: 'T1a', quantity: '5' })],
    ['loss', () => put('loss', { product: 'LOT', lot: 'T1a', quantity: '2' })],
    ['scrap', () => put('scrap', { product: 'SER', serial: 'T-2', place: 'DOCK' })],
    ['build', () => world.build([{ outputs: [unit], inputs: [lots('4')] }])],
    ['teardown', takeApart],
    ['identify', number],
    ['repack', () => world.book(repack, packs as never)],
    ['pack', () => packing('pack')],
    ['unpack', () => packing('unpack')],
    ['ship', () => world.ship([{ product: 'LOT', marks: [{ lot: 'T1a', quantity: '3' }] }])],
    ['return', () => comeBack('1')]
  ];
  const unit = { product: 'MADE', serial: 'TU', quantity: '1' };
  const lots = (quantity: string) => ({ product: 'LOT', lot: 'T1a', quantity });
  const packs = {
    document: 'RP',
    place: 'LINE',
    reason: 'smaller',
    groups: [
      {
        sources: [{ product: 'LOT', lot: 'T1a', quantity: '2' }],
        results: [{ product: 'MADELOT', lot: 'T1a', quantity: '2' }]
      }
    ]
  };
  const carry = (kind: 'put away' | 'move', from: string, to: string) =>
    world.book(move, {
      document: 'M',
      kind,
      lines: [
        { product: 'LOT', lot: 'T1', from, to, quantity: '30' },
        { product: 'SER', serial: 'T-1', from, to }
      ]
    });
  const rename = (lot: string, number: string) =>
    world.book(amend, {
      document: 'AM',
      reason: 'misread',
      lines: [{ product: 'LOT', lot, to: { number, expires: '2031-01-31' } }]
    });
  const decide = (kind: 'hold' | 'release') =>
    world.book(quality, {
      document: 'Q',
      kind,
      reason: 'looked at',
      marks: [{ product: 'LOT', lot: 'T1a' }]
    });
  const put = (kind: 'gain' | 'loss' | 'scrap', line: object) =>
    world.book(correct, {
      document: 'C',
      kind,
      reason: 'found so',
      lines: [{ place: 'LINE', ...line }]
    } as never);
  function takeApart() {
    return world.book(teardown, {
      document: 'TD',
      place: 'LINE',
      reason: 'cracked',
      units: [{ product: 'MADE', serial: 'TU', parts: [lots('4')] }]
    } as never);
  }
  /** Stock that was kept by quantity is kept by lot from now on. */
  async function number() {
    await putProduct(world.sql, 'BULK', {
      ...{ name: 'bulk', unit: 'each', decimals: 0, made: false },
      marking: 'lot'
    });
    return world.book(giveNumbers, {
      document: 'ID',
      lines: [{ product: 'BULK', place: 'DOCK', marks: [{ lot: 'B-1', quantity: '4' }] }]
    });
  }
  let carton = '';
  async function packing(kind: 'pack' | 'unpack') {
    const booked = (await world.book(pack, {
      document: 'PK',
      kind,
      lines: [{ product: 'LOT', lot: 'T1a', quantity: kind === 'pack' ? '6' : '2' }],
      units: [],
      ...(kind === 'unpack' ? { unit: carton } : {})
    })) as BookedAnswer;
    carton = booked.units?.[0] ?? carton;
    return booked;
  }
  const comeBack = (quantity: string) =>
    world.book(goodsReturn, {
      document: 'RMA',
      place: 'DOCK',
      lines: [{ product: 'LOT', lot: 'T1a', quantity }]
    });

  it('of every kind, from the last to the first, leaves all as it was before', async () => {
    for (const code of ['LOT', 'MADELOT'])
      await putProduct(world.sql, code, {
        ...{ name: code, unit: 'each', decimals: 3, made: code === 'MADELOT' },
        ...{ marking: 'lot', netWeightKg: '1' }
      });
    const booked: { kind: string; answer: BookedAnswer; before: unknown }[] = [];
    for (const [kind, act] of acts) {
      const before = await everything();
      const answer = await act().catch((error) => {
        throw new Error(`${kind}: ${JSON.stringify(error.errors ?? String(error))}`);
      });
      booked.push({ kind, answer, before });
    }
    for (const { kind, answer, before } of booked.reverse()) {
      await back(answer);
      expect(await everything(), kind).toEqual(before);
      expect((await refused(answer))[0], kind).toMatchObject({ code: 'balance.open' });
    }
    expect((await reconcile(world.sql)).breaks).toEqual([]);
  });
});

describe('what stands in the way', () => {
  it('is named with its event: of goods that went on, were decided anew, or are packed', async () => {
    const came = await world.receive('LOT', [{ lot: 'W1' }], '10');
    const left = await world.ship([{ product: 'LOT', marks: [{ lot: 'W1', quantity: '4' }] }]);
    expect(await refused(came)).toMatchObject([
      {
        code: 'event.moved-on',
        number: 'W1',
        event: left.event.id,
        message: expect.stringContaining(
          `10 each came by it and 6 are on hand; the rest has moved on: ship ${left.event.document} of`
        )
      }
    ]);
    await back(left);
    const held = await world.book(quality, {
      ...{ document: 'H', kind: 'hold', reason: 'doubt' },
      marks: [{ product: 'LOT', lot: 'W1' }]
    } as never);
    const rejected = await world.book(quality, {
      ...{ document: 'J', kind: 'reject', reason: 'bad' },
      marks: [{ product: 'LOT', lot: 'W1' }]
    } as never);
    expect(await refused(held)).toMatchObject([
      { code: 'event.moved-on', event: rejected.event.id }
    ]);
    await back(rejected);
    await back(held);
    const { units } = await world.book(pack, {
      ...{ document: 'PK-W', kind: 'pack', units: [] },
      lines: [{ product: 'LOT', lot: 'W1', quantity: '8' }]
    } as never);
    expect(await refused(came)).toMatchObject([
      { code: 'event.moved-on', message: expect.stringContaining(units![0]!) }
    ]);
  });
  it('of a shipment of which something came back: the return', async () => {
    await world.receive('SER', [{ serial: 'W-1' }]);
    const left = await world.ship([{ product: 'SER', marks: [{ serial: 'W-1' }] }]);
    const returned = await world.book(goodsReturn, {
      ...{ document: 'RMA-W', place: 'DOCK' },
      lines: [{ product: 'SER', serial: 'W-1' }]
    });
    expect(await refused(left)).toMatchObject([
      { code: 'event.moved-on', number: 'W-1', event: returned.event.id }
    ]);
    await back(returned);
    await back(left);
    expect(await onHandByMovements(world.sql)).toContain('SER W-1 DOCK 1000000');
  });
  it('of a reversal, of an event there is not, and of a mark it did not touch', async () => {
    const lost = await world.receive('SER', [{ serial: 'W-2' }]);
    const undone = await back(lost);
    expect(await refused(undone)).toMatchObject([{ code: 'event.moved-on' }]);
    expect(await refused(999_999)).toMatchObject([{ code: 'mark.unknown' }]);
    const other = await world.receive('SER', [{ serial: 'W-3' }]);
    expect(await refused(other, [{ product: 'SER', serial: 'W-1' }])).toMatchObject([
      { code: 'mark.unknown', path: 'units[0]' }
    ]);
  });
  it('a scrapped serial that turns up comes back alone', async () => {
    await world.receive('SER', [{ serial: 'Z-1' }, { serial: 'Z-2' }]);
    const scrapped = await world.book(correct, {
      ...{ document: 'SC', kind: 'scrap', reason: 'lost' },
      lines: ['Z-1', 'Z-2'].map((serial) => ({ product: 'SER', serial, place: 'DOCK' }))
    } as never);
    await back(scrapped, [{ product: 'SER', serial: 'Z-2' }]);
    const there = await onHandByMovements(world.sql);
    expect(there.filter((row) => row.includes('Z-'))).toEqual(['SER Z-2 DOCK 1000000']);
    await back(scrapped);
    expect(await refused(scrapped)).toMatchObject([{ code: 'balance.open' }]);
  });
});

describe('a receipt taken back', () => {
  it('is received again under its numbers, with what is said of them now', async () => {
    const line = (expires: string) => ({
      ...{ document: 'PO-AGAIN', supplier: 'SUP' },
      lines: [
        { product: 'LOT', place: 'DOCK', quantity: '3', marks: [{ lot: 'AG', expires }] },
        { product: 'SER', place: 'DOCK', quantity: '1', marks: [{ serial: 'AG-1' }] }
      ]
    });
    await back(await world.book(receive, line('2030-01-31')));
    const [lot] = (await world.book(receive, line('2031-01-31'))).marks;
    expect(lot).toMatchObject({ number: 'AG', expires: '2031-01-31', onHand: '3' });
    const changes = await world.sql`
      SELECT field, old_value, new_value FROM mark_change WHERE mark_id = ${lot!.id}
    `;
    expect([...changes]).toEqual([
      { field: 'expires_on', old_value: '2030-01-31', new_value: '2031-01-31' }
    ]);
  });
});

describe('who may take back', () => {
  let receiver: World['actor'];
  beforeEach(async () => {
    const login = `r${newKey().replaceAll(' ', '-')}`;
    await putPerson(world.sql, world.actor, login, {
      ...{ name: 'R', roles: ['receiver'], active: true },
      password: 'a long enough word'
    } as never);
    const [row] = await world.sql<{ id: number }[]>`SELECT id FROM person WHERE login = ${login}`;
    receiver = { ...world.actor, personId: row!.id, name: 'R', roles: ['receiver'] };
  });
  it('whoever may book it', async () => {
    const came = await world.receive('SER', [{ serial: newKey() }]);
    const lot = await world.receive('LOT', [{ lot: newKey() }], '2');
    const left = await world.ship([
      { product: 'LOT', marks: [{ lot: lot.marks[0]!.number!, quantity: '1' }] }
    ]);
    const asReceiver = (event: BookedAnswer) =>
      book(world.sql, reverse, receiver, newKey(), request(event));
    await asReceiver(came);
    await expect(asReceiver(left)).rejects.toMatchObject({ status: 403 });
  });
});
