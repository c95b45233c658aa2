import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { goodsReturn, pack, ship } from '../shipping/kinds.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import type { BookedAnswer } from './book.ts';
import { reverse } from './kinds.ts';
import { reconcile } from './reconcile.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

const back = ({ event }: BookedAnswer) =>
  world.book(reverse, { document: 'BACK', event: event.id, reason: 'booked by mistake' });

describe('the law of reversals, attacked with plain SQL', () => {
  const attack = (undone: number, rows: [mark: number, quantity: string][]) =>
    world.sql.begin(async (tx) => {
      const [event] = await tx<{ id: number }[]>`
        INSERT INTO event (kind, document, happened_at, booked_by, reason, reverses_id)
        VALUES ('reversal', 'X', now(), ${world.actor.personId}, 'attack', ${undone})
        RETURNING id
      `;
      const [dock] = await tx<{ id: number }[]>`SELECT id FROM place WHERE code = 'DOCK'`;
      for (const [mark, quantity] of rows)
        await tx`
          INSERT INTO movement (event_id, mark_id, place_id, quantity)
          VALUES (${event!.id}, ${mark}, ${dock!.id}, ${quantity})
        `;
    });
  it('takes back no more, nothing else, nothing twice and no reversal', async () => {
    const came = await world.receive('LOT', [{ lot: 'LAW' }], '10');
    const mark = came.marks[0]!.id;
    const other = (await world.receive('LOT', [{ lot: 'LAW2' }], '10')).marks[0]!.id;
    const broken = (constraint_name: string) => ({ constraint_name });
    await expect(attack(came.event.id, [[mark, '-9']])).rejects.toMatchObject(
      broken('mirrors_what_it_takes_back')
    );
    await expect(
      attack(came.event.id, [
        [mark, '-10'],
        [other, '-1']
      ])
    ).rejects.toMatchObject(broken('mirrors_what_it_takes_back'));
    const undone = await back(came);
    await world.receive('LOT', [{ lot: 'LAW' }], '10');
    await expect(attack(came.event.id, [[mark, '-10']])).rejects.toMatchObject(
      broken('taken_back_once')
    );
    await expect(attack(undone.event.id, [[mark, '10']])).rejects.toMatchObject(
      broken('no_reversal_of_a_reversal')
    );
  });
  it('takes no shipment back of which something came back', async () => {
    const { marks } = await world.receive('LOT', [{ lot: 'LAW3' }], '5');
    const left = await world.ship([{ product: 'LOT', marks: [{ lot: 'LAW3', quantity: '5' }] }]);
    await world.book(goodsReturn, {
      ...{ document: 'RMA-L', place: 'DOCK' },
      lines: [{ product: 'LOT', lot: 'LAW3', quantity: '1' }]
    });
    await expect(attack(left.event.id, [[marks[0]!.id, '5']])).rejects.toMatchObject({
      constraint_name: 'returns_what_left'
    });
  });
  it('two who take the same back at once take it back once', async () => {
    const came = await world.receive('SER', [{ serial: 'RACE-1' }]);
    const answers = await Promise.allSettled([back(came), back(came), back(came), back(came)]);
    expect(answers.filter((one) => one.status === 'fulfilled')).toHaveLength(1);
  });
  it('two who take a shipment back and return it at once do one of both', async () => {
    await world.receive('SER', [{ serial: 'RACE-2' }]);
    const left = await world.ship([{ product: 'SER', marks: [{ serial: 'RACE-2' }] }]);
    const answers = await Promise.allSettled([
      back(left),
      world.book(goodsReturn, {
        ...{ document: 'RMA-R', place: 'RACK' },
        lines: [{ product: 'SER', serial: 'RACE-2' }]
      })
    ]);
    expect(answers.filter((one) => one.status === 'fulfilled')).toHaveLength(1);
    expect((await reconcile(world.sql)).breaks).toEqual([]);
  });
  it('a carton that came back leaves again, and only once', async () => {
    await world.receive('LOT', [{ lot: 'CRT' }], '6');
    const { units } = await world.book(pack, {
      ...{ document: 'PK-C', kind: 'pack', units: [] },
      lines: [{ product: 'LOT', lot: 'CRT', quantity: '6' }]
    } as never);
    const leave = () => world.book(ship, { document: newKey(), customer: 'CUS', lines: [], units });
    const first = await leave();
    await back(first);
    const second = await leave();
    const [unit] = await world.sql<{ id: number }[]>`
      SELECT id FROM logistic_unit WHERE sscc = ${units![0]!}
    `;
    await expect(
      world.sql`INSERT INTO unit_shipped (unit_id, event_id) VALUES (${unit!.id}, ${first.event.id + 0})`
    ).rejects.toThrow();
    expect([
      ...(await world.sql`SELECT event_id FROM unit_out WHERE unit_id = ${unit!.id}`)
    ]).toEqual([{ event_id: second.event.id }]);
  });
});
