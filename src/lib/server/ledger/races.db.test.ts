import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { putOrder } from '../orders/write-order.ts';
import { reconcile } from './reconcile.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { book } from './book.ts';
import { build } from '../making/kinds.ts';
import { Problem } from '../kernel/problem.ts';
import { quality } from '../quality/kinds.ts';
import { receive } from '../receiving/kinds.ts';
import { ship } from '../shipping/kinds.ts';

// Law 6: two bookings racing for the same stock cannot both get it. Twenty clients at once, each on
// a connection of its own.
const CLIENTS = 20;
let world: World;
beforeAll(async () => {
  world = await makeWorld({ max: CLIENTS + 4 });
});
afterAll(async () => {
  expect((await reconcile(world.sql)).breaks).toEqual([]);
  await world.end();
});

/** Runs one booking per client at once; how many were booked, and the fault codes of the others. */
async function race(
  attempt: (client: number) => Promise<unknown>
): Promise<{ booked: number; refused: string[] }> {
  const results = await Promise.allSettled(
    Array.from({ length: CLIENTS }, (_, client) => attempt(client))
  );
  const refused = results.flatMap((result) => {
    if (result.status === 'fulfilled') return [];
    if (result.reason instanceof Problem)
      return [result.reason.errors.map((error) => error.code).join('+')];
    throw result.reason; // a deadlock or a stray constraint must never reach a client
  });
  return { booked: results.length - refused.length, refused };
}

describe('twenty clients at once', () => {
  it('shipping 3 each of a lot of 20: six get theirs, the others are told it is short', async () => {
    const lot = (await world.receive('LOT', [{ lot: 'RACED' }], '20')).marks[0]!.id;
    const { booked, refused } = await race((client) =>
      book(world.sql, ship, world.actor, newKey(), {
        document: `S-${client}`,
        customer: 'CUS',
        lines: [{ product: 'LOT', place: 'DOCK', marks: [{ lot: 'RACED', quantity: '3' }] }]
      })
    );
    expect(booked).toBe(6);
    expect(new Set(refused)).toEqual(new Set(['stock.short']));
    expect((await world.sql`SELECT quantity FROM stock WHERE mark_id = ${lot}`)[0]!.quantity).toBe(
      '2.000000'
    );
  });

  it('building with the same serial: one does', async () => {
    await world.receive('SER', [{ serial: 'ONLY' }]);
    const { booked, refused } = await race((client) =>
      book(world.sql, build, world.actor, newKey(), {
        document: `B-${client}`,
        place: 'LINE',
        groups: [
          {
            outputs: [{ product: 'MADE', serial: `RACE-${client}` }],
            inputs: [{ product: 'SER', serial: 'ONLY' }]
          }
        ]
      })
    );
    expect(booked).toBe(1);
    expect(new Set(refused)).toEqual(new Set(['stock.short']));
  });

  it('receiving the same new serial: one does, the others are told where it lies', async () => {
    const { booked, refused } = await race((client) =>
      book(world.sql, receive, world.actor, newKey(), {
        document: `R-${client}`,
        supplier: 'SUP',
        lines: [{ product: 'SER', place: 'DOCK', quantity: '1', marks: [{ serial: 'NEWBORN' }] }]
      })
    );
    expect(booked).toBe(1);
    expect(new Set(refused)).toEqual(new Set(['mark.duplicate']));
  });

  it('receiving into the same new lot: all do, and it adds up', async () => {
    const { booked } = await race((client) =>
      book(world.sql, receive, world.actor, newKey(), {
        document: `R-${client}`,
        supplier: 'SUP',
        lines: [{ product: 'LOT', place: 'DOCK', quantity: '1.5', marks: [{ lot: 'TOGETHER' }] }]
      })
    );
    expect(booked).toBe(CLIENTS);
    expect(
      (
        await world.sql`SELECT s.quantity FROM stock s JOIN mark m ON m.id = s.mark_id WHERE m.number = 'TOGETHER'`
      )[0]!.quantity
    ).toBe('30.000000');
  });

  it('sending the same booking under the same key: it is booked once and all get the same answer', async () => {
    const key = newKey();
    const answers = await Promise.all(
      Array.from({ length: CLIENTS }, () =>
        book(world.sql, receive, world.actor, key, {
          document: 'R-SAME',
          supplier: 'SUP',
          lines: [
            {
              product: 'SER',
              place: 'DOCK',
              quantity: '2',
              marks: [{ serial: 'K1' }, { serial: 'K2' }]
            }
          ]
        })
      )
    );
    expect(answers.filter((answer) => answer.fresh)).toHaveLength(1);
    expect(new Set(answers.map((answer) => answer.answer)).size).toBe(1);
    expect((await world.sql`SELECT count(*) AS n FROM event WHERE document = 'R-SAME'`)[0]!.n).toBe(
      1
    );
  });

  it('drawing on two lots in opposite order: none is lost to a deadlock', async () => {
    await world.receive(
      'LOT',
      [
        { lot: 'A1', quantity: '20' },
        { lot: 'B1', quantity: '20' }
      ],
      '40'
    );
    const { booked } = await race((client) =>
      book(world.sql, ship, world.actor, newKey(), {
        document: `S-${client}`,
        customer: 'CUS',
        lines: [
          {
            product: 'LOT',
            place: 'DOCK',
            marks: (client % 2 ? ['A1', 'B1'] : ['B1', 'A1']).map((lot) => ({ lot, quantity: '1' }))
          }
        ]
      })
    );
    expect(booked).toBe(CLIENTS);
  });

  it('receiving the last 10 of an order, 4 each: two fit', async () => {
    await putOrder(world.sql, world.actor, 'purchase', 'PO-RACE', {
      partner: 'SUP',
      due: '2026-12-01',
      note: '',
      lines: [{ product: 'LOT', quantity: '10' }]
    });
    const { booked, refused } = await race((client) =>
      book(world.sql, receive, world.actor, newKey(), {
        document: 'PO-RACE',
        supplier: 'SUP',
        lines: [
          { product: 'LOT', place: 'DOCK', quantity: '4', marks: [{ lot: `PO-RACE-${client}` }] }
        ]
      })
    );
    expect(booked).toBe(2);
    expect(new Set(refused)).toEqual(new Set(['quantity.mismatch']));
  });

  it('holding a lot while it is shipped: nothing leaves after the hold', async () => {
    const lot = (await world.receive('LOT', [{ lot: 'STOPPED' }], '100')).marks[0]!.id;
    await race((client) =>
      client === 7
        ? book(world.sql, quality, world.actor, newKey(), {
            document: 'H',
            kind: 'hold',
            reason: 'stop',
            marks: [{ product: 'LOT', lot: 'STOPPED' }]
          })
        : book(world.sql, ship, world.actor, newKey(), {
            document: `S-${client}`,
            customer: 'CUS',
            lines: [{ product: 'LOT', place: 'DOCK', marks: [{ lot: 'STOPPED', quantity: '1' }] }]
          })
    );
    const [order] = await world.sql<{ hold: Date; last: Date | null }[]>`
      SELECT (SELECT e.booked_at FROM mark_change c JOIN event e ON e.id = c.event_id WHERE c.mark_id = ${lot}) AS hold,
        (SELECT max(e.booked_at) FROM movement v JOIN event e ON e.id = v.event_id WHERE v.mark_id = ${lot} AND e.kind = 'ship') AS last`;
    expect(order!.last === null || order!.last <= order!.hold).toBe(true);
  });
});
